import { chromium } from '@playwright/test';
const [,, who, path, out, ...acts] = process.argv;
const people = { maud: ['maud@larkhaven.example','keys-on-a-ring'], ines: ['ines@larkhaven.example','late-boat-again'], juno: ['juno@larkhaven.example','first-line-first'] };
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu','--disable-quic','--no-first-run','--disable-background-networking'] });
const c = await b.newContext({ viewport: { width: Number(process.env.W ?? 1280), height: Number(process.env.H ?? 800) }, locale: 'en-GB', baseURL: 'http://127.0.0.1:4477', reducedMotion: 'reduce' });
const p = await c.newPage();
await p.goto('/sign-in'); await p.waitForLoadState('networkidle');
await p.getByLabel('Mail address').fill(people[who][0]); await p.getByLabel('Password', {exact:true}).fill(people[who][1]);
await p.getByRole('button', { name: 'Sign in', exact: true }).click(); await p.waitForURL(/(room|workshop)$/);
await p.goto(path); await p.waitForLoadState('networkidle');
for (const a of acts) { await (new Function('p', 'return (async()=>{' + a + '})()'))(p); await p.waitForTimeout(600); }
await p.screenshot({ path: out, fullPage: process.env.FULL === '1' });
await b.close();
