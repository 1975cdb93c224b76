import { chromium } from '@playwright/test';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu'] });
const p = await b.newPage({ viewport: { width: 820, height: 1180 } });
for (const path of ['/','/stage/wood','/stage/finishing','/flow','/release','/devices','/batch/I-180']) { await p.goto('http://localhost:8631'+path); await p.waitForTimeout(1200);
 console.log(path, await p.evaluate(() => { const w=innerWidth; const bad=[...document.querySelectorAll('body *')].filter(e=>e.getBoundingClientRect().right>w+1 && getComputedStyle(e).position!=='absolute').slice(0,4).map(e=>e.tagName+'.'+e.className+' '+Math.round(e.getBoundingClientRect().right)); return document.documentElement.scrollWidth-w+' '+bad.join(' | ')})); }
await b.close();
