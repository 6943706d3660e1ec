import { wideSallow } from './wide-sallow'
import { Survey, CHECKS } from '@tidytrail/core/checks'
import { CheckRunner } from '../core/checks/runner'
const l = wideSallow(20000, 0); const s = new Survey();
s.update(l)
const by: Record<string, number> = {}
for (const x of s.findings) by[x.check] = (by[x.check] ?? 0) + 1
console.log(by)
const view = (s as any).view(l, (s as any).terrain)
for (const c of CHECKS) { const r = new CheckRunner([c]); const t = performance.now(); r.run(view, 'everywhere'); const ms = performance.now() - t; if (ms > 15) console.log(c.id, c.each, ms.toFixed(0)) }
