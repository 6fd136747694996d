import { demoRig, rigWith } from '../core/test/rigs.ts';
import { newRig, withBlock } from '../core/rig/index.ts';
import { blockDefinition, newBlock } from '../core/block/index.ts';
import { solveRigScene } from '../core/simulate/index.ts';
import { evaluateRig } from '../core/evaluation/index.ts';
const put = (rig: any, slot: any, kind: string) => withBlock(rig, slot, newBlock(blockDefinition(slot, kind)));
const rigs: Record<string, any> = { anvil: demoRig('anvil'), thimble: demoRig('thimble') };
let r = put(newRig(), 'supply', 'bench-supply'); rigs.bench = r;
rigs.battery = rigWith({ 'store.V0': '350 V','store.C':'470u','bleeder.R':'1M' }, put(put(newRig(), 'supply', 'battery-converter'),'charging','direct'));
rigs.driver = rigWith({ 'store.V0': '350 V','store.C':'470u' ,'bleeder.R':'1M'}, put(put(newRig(), 'supply', 'driver'),'charging','direct'));
for (const rect of ['half-wave','bridge','doubler']) rigs[rect] = rigWith({ 'supply.rectifier': rect, 'store.V0': rect==='doubler'?'500 V':'280 V', 'bleeder.R':'1M', 'supply.Ll':'0.2 H' }, put(newRig(), 'supply', 'mains-transformer'));
rigs.multi = rigWith({ 'store.V0': '6 kV', 'store.C': '10 nF', 'bleeder.R':'1G','bleeder.n':'1','charging.R':'10k' }, put(newRig(), 'supply', 'multiplier'));
rigs.choke = rigWith({ 'supply.V':'1500 V','supply.R':'1','store.V0': '2.9 kV', 'store.C': '1 uF', 'bleeder.R':'100M' }, put(newRig(), 'charging', 'choke'));
rigs.chokediode = rigWith({ 'supply.V':'1500 V','supply.R':'1','store.V0': '2.9 kV', 'store.C': '1 uF', 'bleeder.R':'100M' }, put(newRig(), 'charging', 'choke-diode'));
rigs.chain = rigWith({ 'supply.V':'1500 V','supply.R':'1','store.V0': '2.8 kV', 'store.C': '1 uF', 'bleeder.R':'100M' }, put(newRig(), 'charging', 'chain'));
for (const [name, rig] of Object.entries(rigs)) {
  evaluateRig(rig); let s = performance.now(); for (let i=0;i<3;i++) evaluateRig({...rig}); const ev = (performance.now()-s)/3;
  console.log('==', name, 'evaluation', ev.toFixed(1), 'ms', evaluateRig(rig).problems.filter(p=>p.severity==='error').map(p=>p.text));
  for (const of of ['charge','discharge','bleed'] as const) {
    s = performance.now(); const a = solveRigScene(rig, name, of, {}); const t1 = performance.now()-s;
    s = performance.now(); const b = solveRigScene(rig, name, of, { explain: true }); const t2 = performance.now()-s;
    if (!b.ok) { console.log(' ', of, b.reason); continue; }
    const v = b.value; console.log(' ', of, t1.toFixed(1), t2.toFixed(1), 'ms', v.run.outcome, v.run.steps, v.run.closure.toExponential(1), v.events.length, v.note ?? '');
    for (const c of v.compared) console.log('     ', c.id, c.closed?.toPrecision(5), c.solver?.toPrecision(5), c.off===null?null:(c.off*100).toFixed(2)+'%', c.because.join(' | '));
  }
}
