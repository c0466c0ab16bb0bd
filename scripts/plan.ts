// ./safe-room plan export, plan import FILE: the plan as a file and back. The database is there when these are called.
import { readFileSync } from 'node:fs';
import { CommandFault } from './cluster';

/** Loaded late: the server reads the address of the database when it is loaded. */
async function load() {
  const [{ db, pool }, { findSite, mustFindKeyholderAccess }, files, changes, { Problem }] = await Promise.all([
    import('../src/server/db/client'),
    import('../src/server/gate/access'),
    import('../src/server/plan/files'),
    import('../src/server/plan/changes'),
    import('../src/server/gate/problems'),
  ]);
  const site = await findSite(db);
  if (!site) throw new CommandFault('There is no site yet. Start Safe Room once: ./safe-room start');
  return { db, pool, site, mustFindKeyholderAccess, ...files, ...changes, Problem };
}

/** Writes the plan to standard output. */
export async function exportPlan(as: string, live: boolean): Promise<void> {
  const { db, pool, site, exportPlan: make, EXPORTS } = await load();
  try {
    const kind = EXPORTS.find((one) => one === as);
    if (!kind) throw new CommandFault(`There is no format "${as}". Choose one of ${EXPORTS.join(', ')}.`);
    process.stdout.write((await make(db, site, kind, live)).text);
  } finally {
    await pool.end();
  }
}

function readText(file: string): string {
  try {
    return readFileSync(file, 'utf8');
  } catch (error) {
    const code = (error as { code?: string }).code;
    throw new CommandFault(
      code === 'ENOENT'
        ? `There is no file ${file}.`
        : code === 'EISDIR'
          ? `${file} is a folder, not a file.`
          : `${file} cannot be read.`,
    );
  }
}

/**
 * Shows what a file would change in the prepared plan, asks, and changes it. What is in force stays until somebody goes
 * live.
 */
export async function importPlan(file: string, ask: (question: string) => Promise<boolean>): Promise<void> {
  const { db, pool, site, previewPlan, changePlan, mustFindKeyholderAccess, Problem } = await load();
  try {
    const { plan, revision, differences } = await previewPlan(db, site, readText(file));
    if (differences.length === 0) return console.log('  The file says what is prepared already; nothing to do.');
    for (const { name, lines } of differences)
      console.log(`  ${name}\n${lines.map((line) => `    ${line}`).join('\n')}`);
    if (!(await ask('\n  Put this into the prepared plan? Nobody sees it before you go live. [y/N] ')))
      return console.log('  Nothing was changed.');
    await db.transaction(async (tx) =>
      changePlan(tx, await mustFindKeyholderAccess(tx, site), revision, [{ do: 'replace-plan', plan }]),
    );
    console.log('  It is prepared. Go live, or undo it, in the Workshop.');
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    const faults = (error.extra['faults'] as { field: string; message: string }[] | undefined) ?? [];
    throw new CommandFault([error.detail, ...faults.map((f) => `${f.field}: ${f.message}`)].join('\n'));
  } finally {
    await pool.end();
  }
}
