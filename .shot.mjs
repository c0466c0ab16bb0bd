import { chromium } from 'playwright';
const [,, script] = process.argv;
const PASS={maud:'keys-on-a-ring',ines:'late-boat-again',tomas:'ropes-and-ramps',priya:'reads-it-twice',oskar:'soup-of-the-day',lotte:'says-what-it-shows',juno:'first-line-first',sam:'until-the-autumn'};
const browser = await chromium.launch({ executablePath:'/usr/bin/chromium', args:['--no-sandbox','--disable-gpu'] });
const base='http://127.0.0.1:4477';
export async function as(name, size={width:1280,height:800}){ const c=await browser.newContext({viewport:size, ...(size.touch&&{hasTouch:true})}); const p=await c.newPage(); p.on('pageerror',e=>console.log('ERR',name,e.message.slice(0,300))); p.on('console',m=>m.type()==='error'&&console.log('CON',m.text().slice(0,300))); await p.goto(base+'/sign-in'); await p.waitForFunction(()=>!document.querySelector('astro-island[ssr]')); await p.fill('[name=email], input[type=email]',name+'@larkhaven.example'); await p.fill('input[type=password]',PASS[name]); await p.keyboard.press('Enter'); await p.waitForURL(/\/room|workshop/); return p;}
const go=async(p,u)=>{await p.goto(base+u); await p.waitForFunction(()=>!document.querySelector('astro-island[ssr]')).catch(()=>{});};
const fn=(await import(script)).default; try { await fn({as,go,base,browser}); } catch(e){console.log('FAIL',e.message.slice(0,800));} await browser.close();
