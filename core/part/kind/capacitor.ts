import { printPercent, printQuantity } from '../../quantity/index.ts';
import { countOf, choice, fields, quantity, within } from '../../field/index.ts';
import { capacitorFormulas } from '../../formula/index.ts';
import { labelled } from './fields.ts';
import { definePartKind, type PartReading, type Verdict } from './define.ts';

/** How far below its label a capacitor may measure before it is suspect, by dielectric; above it many are by design. Common practice, no source. */
const shortfall: Readonly<Record<string, number>> = {
  film: 0.1,
  electrolytic: 0.25,
  ceramic: 0.5,
  mica: 0.05,
  'paper-oil': 0.15,
  'home-made': 0.5,
};

/** Self-discharge time constant R·C, s, below which a capacitor is suspect or failed. Common practice, no source. */
const leakage: Readonly<Record<string, { suspect: number; failed: number }>> = {
  film: { suspect: 1000, failed: 10 },
  electrolytic: { suspect: 30, failed: 3 },
  ceramic: { suspect: 100, failed: 1 },
  mica: { suspect: 1000, failed: 10 },
  'paper-oil': { suspect: 200, failed: 5 },
  'home-made': { suspect: 10, failed: 0.5 },
};

/** So many times its value, and a built-in discharge resistor is open; below the inverse of it something else conducts. Common practice, no source. */
const openAt = 1.5;

function verdict(part: PartReading): Verdict | null {
  const dielectric = part.choice('dielectric');
  const [C, esr, insulation] = [part.measured('capacitance'), part.measured('esr'), part.measured('insulation')];
  const found: Verdict[] = [];
  if (C?.fromLabel != null && C.fromLabel < -0.5)
    found.push({
      condition: 'failed',
      reason: `it measures ${printPercent(-C.fromLabel, 2)} below its label: most of it is gone or disconnected`,
    });
  else if (C?.fromLabel != null && C.fromLabel < -(shortfall[dielectric] ?? 0.2))
    found.push({ condition: 'suspect', reason: `it measures ${printPercent(-C.fromLabel, 2)} below its label` });
  if (C && C.count > 1 && C.high / C.low > 1.25)
    found.push({
      condition: 'suspect',
      reason: `its readings differ from ${printQuantity(C.low, 'F')} to ${printQuantity(C.high, 'F')}`,
    });
  const builtIn = part.label('Rb');
  if (insulation && builtIn !== null) {
    const ratio = insulation.mean / builtIn;
    const words = `${printQuantity(insulation.mean, 'Ω')} across it, and its built-in resistor is ${printQuantity(builtIn, 'Ω')}`;
    if (ratio > openAt) found.push({ condition: 'suspect', reason: `${words}: the resistor is open, it holds its charge` });
    else if (ratio < 1 / openAt) found.push({ condition: 'suspect', reason: `${words}: it leaks beside the resistor` });
  } else if (C && insulation) {
    const seconds = insulation.low * C.mean;
    const limit = leakage[dielectric] ?? { suspect: 100, failed: 5 };
    const words = `at ${printQuantity(insulation.low, 'Ω')} it loses its charge with ${printQuantity(seconds, 's')}`;
    if (seconds < limit.failed) found.push({ condition: 'failed', reason: words });
    else if (seconds < limit.suspect) found.push({ condition: 'suspect', reason: words });
  }
  const nominal = part.label('ESR');
  if (esr && nominal !== null && esr.mean > 3 * nominal)
    found.push({
      condition: 'suspect',
      reason: `its ESR is ${printQuantity(esr.mean / nominal, '1', { digits: 2 })} times that of its label`,
    });
  const gravest = found.find((v) => v.condition === 'failed') ?? found[0];
  if (gravest) return gravest;
  // Good is said only of what has been measured both ways: value and leakage.
  return C && insulation ? { condition: 'good', reason: 'capacitance and insulation are as they should be' } : null;
}

export const capacitor = definePartKind({
  kind: 'capacitor',
  title: 'Capacitor',
  prefix: 'C',
  shows: ['C'],
  holdsCharge: true,
  fields: fields({
    dielectric: choice('Dielectric', {
      film: 'film',
      electrolytic: 'electrolytic',
      ceramic: 'ceramic',
      mica: 'mica',
      'paper-oil': 'paper in oil',
      'home-made': 'home-made',
    }),
    C: labelled('C', 'Capacitance, each element', 'F', 1e3, {
      tolerance: true,
      help: 'As the label says it, with its tolerance.',
    }),
    elements: { ...countOf('Elements in the case', { symbol: 'n' }), max: 12 },
    connection: choice('Elements are connected', {
      apart: 'apart, or there is one',
      delta: 'in delta',
      common: 'to one common terminal',
    }),
    read: choice(
      'Delta can read',
      { joined: 'one terminal against the other two joined', pairs: 'terminal to terminal, the third open' },
      { help: 'How its three capacitances were taken: the elements are worked out from it.' },
    ),
    Vdc: labelled('Vdc', 'DC rating', 'V', 1e6),
    Vac: labelled('Vac', 'AC rating, rms', 'V', 1e6),
    Vtest: labelled('Vt', 'AC test voltage, rms', 'V', 1e6, { help: 'A test lasts seconds; it is no working voltage.' }),
    ESR: labelled('ESR', 'ESR', 'Ω', 1e6, { tolerance: true }),
    ESL: labelled('ESL', 'ESL', 'H', 1, { tolerance: true }),
    Rb: labelled('Rb', 'Built-in discharge resistor', 'Ω', 1e12, {
      tolerance: true,
      help: 'As its case or data sheet says it. It fails open without a sign: a rig counts it only as measured, by the insulation reading.',
    }),
    Ipeak: labelled('Ip', 'Peak current', 'A', 1e8),
    use: choice(
      'Used as',
      {
        one: 'one element',
        parallel: 'all elements in parallel',
        series: 'all elements in series',
        'short-12': 'delta, 1 and 2 joined against 3',
        'short-23': 'delta, 2 and 3 joined against 1',
        'short-13': 'delta, 1 and 3 joined against 2',
        'open-1': 'delta, 2 against 3, 1 left open',
        'open-2': 'delta, 1 against 3, 2 left open',
        'open-3': 'delta, 1 against 2, 3 left open',
      },
      { help: 'How its elements are connected where it is used: this is the capacitor that banks see.' },
    ),
    school: choice('DC limit by', {
      default: 'its DC rating; without one, AC rating × √2',
      dc: 'its DC rating',
      ac: 'its AC rating',
      'ac-peak': 'AC rating × √2',
      'ac-twice': 'AC rating × 2',
      'test-peak': 'AC test voltage × √2',
    }),
    reversal: quantity('Rated reversal', '1', within(0.01, 1), null, {
      symbol: 'kr',
      help: 'From the data sheet. Not known: an AC rating is taken to withstand full reversal, a DC rating none.',
    }),
    seen: quantity('Reversal in use', '1', within(0, 1), null, { symbol: 'k' }),
    Nr: quantity('Rated shot life', '1', within(1, 1e12), null),
    N: quantity('Shots wanted', '1', within(1, 1e12), null),
    exponent: quantity('Exponent of its voltage-life law', '1', within(1, 30), '7', {
      symbol: 'n',
      help: '7 for film and paper is common practice, no source; a data sheet that gives another comes first.',
    }),
  }),
  measures: [
    {
      id: 'capacitance',
      title: 'Capacitance',
      unit: 'F',
      min: 1e-15,
      max: 1e3,
      field: 'C',
      at: 'frequency',
      perElement: true,
      how: 'Bridge or meter across one element, leads nulled.',
    },
    {
      id: 'esr',
      title: 'ESR',
      unit: 'Ω',
      min: 1e-6,
      max: 1e6,
      field: 'ESR',
      at: 'frequency',
      perElement: true,
      how: 'Bridge, series model, at the frequency of the discharge or near it.',
    },
    {
      id: 'insulation',
      title: 'Insulation resistance',
      unit: 'Ω',
      min: 1,
      max: 1e15,
      at: 'voltage',
      gives: 'Ri',
      charges: true,
      perElement: true,
      how: 'Insulation tester after a minute at the voltage; then discharge and verify again.',
    },
  ],
  cautions: [
    'Treat it as charged until a meter rated for its voltage says otherwise, and strap it between measurements: a discharged one can recover.',
    'Old oil-filled units may hold PCBs: gloves, no opening, and local rules for disposal apply.',
  ],
  verdict,
  elementTitle: (part, element) => {
    if (part.choice('connection') !== 'delta') return null;
    if (part.choice('read') === 'pairs') return `terminal ${element} to ${(element % 3) + 1}, ${((element + 1) % 3) + 1} open`;
    const joined = [1, 2, 3].filter((t) => t !== element);
    return `terminal ${element} against ${joined.join(' and ')} joined`;
  },
  // A reading from one terminal to the other two joined is the sum of the two elements at it; one from terminal to terminal has the third
  // element and the second in series beside the first.
  elements: (part, measure, means) => {
    if (measure !== 'capacitance' || part.choice('connection') !== 'delta') return null;
    const [a, b, c] = [means.get(1), means.get(2), means.get(3)];
    const isPairs = part.choice('read') === 'pairs';
    if (a === undefined || b === undefined || c === undefined)
      return [...means.values()].map((read) => (isPairs ? read / 1.5 : read / 2));
    if (isPairs) {
      const pair = (Rab: number, Rbc: number, Rca: number) => capacitorFormulas.deltaElementOfPairs.compute({ Rab, Rbc, Rca });
      return [pair(a, b, c), pair(b, c, a), pair(c, a, b)];
    }
    // Plain arithmetic: readings that no three capacitors give come out below nought, and the connection is refused.
    const element = (Sa: number, Sb: number, Sc: number) => capacitorFormulas.deltaElement.compute({ Sa, Sb, Sc });
    return [element(a, b, c), element(b, c, a), element(c, a, b)];
  },
});
