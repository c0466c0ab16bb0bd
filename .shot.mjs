import { chromium } from 'playwright';
const P={maud:['maud@larkhaven.example','keys-on-a-ring'],ines:['ines@larkhaven.example','late-boat-again'],juno:['juno@larkhaven.example','first-line-first'],priya:['priya@larkhaven.example','reads-it-twice'],oskar:['oskar@larkhaven.example','soup-of-the-day']};
const [who,path,...rest]=process.argv.slice(2);
const base='http://127.0.0.1:4477';
const b=await chromium.launch({executablePath:'/usr/bin/chromium',args:['--no-sandbox','--disable-gpu']});
const p=await b.newPage({viewport:{width:+(process.env.W||1280),height:+(process.env.H||800)}});
p.on('pageerror',e=>console.log('PAGEERROR',e.message)); p.on('console',m=>m.type()==='error'&&console.log('CONSOLE',m.text()));
await p.goto(base+'/sign-in'); await p.getByLabel('Mail address').fill(P[who][0]); await p.getByLabel('Password').fill(P[who][1]); await p.getByRole('button',{name:/sign in/i}).click(); await p.waitForURL(/room|workshop/);
await p.goto(base+path); await p.waitForLoadState('networkidle');
for(const r of rest){ if(r.endsWith('.png')) await p.screenshot({path:r,fullPage:!!process.env.FULL}); else { const f=new Function('p','return (async()=>{'+r+'})()'); const v=await f(p); if(v!==undefined) console.log(v);} }
await b.close();
