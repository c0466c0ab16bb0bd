// From a key to its letter in the writing area: a short text and one of 5,000 words, as it is and slowed four times.
import { randomUUID } from 'node:crypto';
import type { Browser, Page } from '@playwright/test';
import { p } from '../../src/demo/write';

const KEYS = 60;
const median = (values: number[]) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

/** Milliseconds from each key to the drawing that follows its letter. */
async function waitsOf(page: Page): Promise<number[]> {
  const text = page.getByRole('textbox', { name: 'Text', exact: true });
  await text.click();
  await page.keyboard.press('Control+Home');
  await text.evaluate((area) => {
    const waits: number[] = [];
    (window as unknown as { waits: number[] }).waits = waits;
    let pressed = 0;
    addEventListener('keydown', () => (pressed = performance.now()), true);
    area.addEventListener('input', () => {
      const since = pressed;
      // After the drawing: what is asked for in a frame runs before it.
      requestAnimationFrame(() => setTimeout(() => waits.push(performance.now() - since)));
    });
  });
  for (let n = 0; n < KEYS; n++) await page.keyboard.press('e', { delay: 20 });
  return page.evaluate(() => (window as unknown as { waits: number[] }).waits);
}

export async function measureTyping(
  browser: Browser,
  url: string,
  maud: string,
  say: (what: string, value: string) => void,
): Promise<void> {
  const words = (count: number) =>
    Array.from({ length: count / 20 }, (_, n) =>
      p(`Paragraph ${n}: ${'the boat leaves the pier in the morning fog '.repeat(2)}`),
    );
  const send = async (method: string, path: string, body: object): Promise<unknown> => {
    const answer = await fetch(url + path, {
      method,
      headers: { origin: url, 'content-type': 'application/json', 'idempotency-key': randomUUID(), cookie: maud },
      body: JSON.stringify(body),
    });
    if (!answer.ok) throw new Error(`${path}: ${answer.status}`);
    return answer.json();
  };
  for (const [slowed, how] of [
    [1, ''],
    [4, ', processor slowed four times'],
  ] as const) {
    const found: number[] = [];
    for (const count of [100, 5000]) {
      const title = `Typed into, ${count} words${how}`;
      const { id } = (await send('POST', '/api/pages', { parent: 1, layout: 'plain', title })) as { id: string };
      const content = { title, body: { type: 'doc', content: words(count) } };
      await send('PUT', `/api/items/${id}/draft`, { content, version: 1 });
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
      const [key = '', value = ''] = maud.split('=');
      await context.addCookies([{ name: key, value, url }]);
      const page = await context.newPage();
      await page.goto(`${url}/room/pages/${id}`, { waitUntil: 'networkidle' });
      const cdp = await context.newCDPSession(page);
      await cdp.send('Emulation.setCPUThrottlingRate', { rate: slowed });
      found.push(median(await waitsOf(page)));
      await context.close();
    }
    const [short = 0, long = 0] = found;
    say(
      `from a key to its letter, text of 5,000 words${how}`,
      `${long.toFixed(0)} ms median; beside a text of 100 words ${short.toFixed(0)} ms: ${(long / short).toFixed(2)} ×`,
    );
  }
}
