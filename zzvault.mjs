import { chromium } from '@playwright/test'
const b = await chromium.launch({ executablePath: '/usr/bin/chromium' })
const p = await b.newPage({ viewport: { width: 1280, height: 800 } })
p.on('pageerror', e => console.log('ERR', e.message))
await p.addInitScript(() => { window.__long = []; new PerformanceObserver(l => l.getEntries().forEach(e => window.__long.push(Math.round(e.duration)))).observe({ type: 'longtask', buffered: true }) })
const longs = async what => { console.log(what, JSON.stringify(await p.evaluate(() => window.__long.splice(0)))) }
await p.goto('http://127.0.0.1:4399/'); await p.waitForTimeout(3000); await longs('open')
await p.keyboard.press('Escape'); await p.getByRole('link', { name: /Vault/ }).click(); await p.waitForTimeout(2500); await longs('vault')
await p.screenshot({ path: '/tmp/zz/v1.png' })
await p.keyboard.press('End'); await p.waitForTimeout(500); await longs('end')
for (let i = 0; i < 5; i++) { await p.keyboard.press('ArrowUp'); await p.waitForTimeout(120) } await longs('up')
await p.screenshot({ path: '/tmp/zz/v2.png' })
await p.getByRole('link', { name: /Bench/ }).click(); await p.waitForTimeout(1500); await longs('bench')
await b.close()
