import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { inManner, mannerNow, printQuantity, printWire, type Manner } from '@vast-surge/core/quantity';
import { keepManner } from '../../app/manner.ts';
import { Button } from '../../ui/button.tsx';

type Choice = {
  readonly [K in keyof Manner]: {
    readonly of: K;
    readonly title: string;
    readonly options: readonly { readonly value: Manner[K]; readonly title: string }[];
  };
}[keyof Manner];

const choices: readonly Choice[] = [
  {
    of: 'measures',
    title: 'Lengths, masses, speeds, forces',
    options: [
      { value: 'metric', title: 'Metric: mm, g, m/s, N' },
      { value: 'imperial', title: 'Imperial: inches, grains and ounces, ft/s, lbf' },
    ],
  },
  {
    of: 'pressure',
    title: 'Pressures',
    options: [
      { value: 'Pa', title: 'kPa' },
      { value: 'bar', title: 'bar' },
      { value: 'psi', title: 'psi' },
    ],
  },
  {
    of: 'wire',
    title: 'Wires',
    options: [
      { value: 'metric', title: 'By diameter' },
      { value: 'AWG', title: 'By gauge (AWG), where one is within 1 %' },
    ],
  },
  {
    of: 'decimal',
    title: 'Decimal sign',
    options: [
      { value: 'point', title: 'Point: 1.27 kJ' },
      { value: 'comma', title: 'Comma: 1,27 kJ' },
    ],
  },
];

const samples: readonly (readonly [what: string, print: () => string])[] = [
  ['A gap', () => printQuantity(9.5e-3, 'm')],
  ['A wall of a sleeve', () => printQuantity(0.2e-3, 'm')],
  ['A distance', () => printQuantity(3, 'm')],
  ['A slug', () => printQuantity(21.4e-3, 'kg')],
  ['Its speed', () => printQuantity(38.6, 'm/s')],
  ['A force', () => printQuantity(1180, 'N')],
  ['A pressure', () => printQuantity(182e3, 'Pa')],
  ['A wire', () => printWire(1.291e-3)],
  ['An energy', () => printQuantity(1274, 'J')],
];

function AsItLooks({ manner }: { manner: ReturnType<typeof mannerNow> }) {
  return (
    <table className="self-start">
      <caption className="text-left font-bold">As it will look</caption>
      <tbody>
        {samples.map(([what, print]) => (
          <tr key={what} className="border-b border-rule">
            <th scope="row" className="py-1 pr-3 text-left font-normal">
              {what}
            </th>
            <td className="figure py-1 text-right">{inManner(manner, print)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** In which units this device shows numbers. */
export function UnitsView() {
  const [manner, setManner] = useState(mannerNow);
  const isNew = JSON.stringify(manner) !== JSON.stringify(mannerNow());
  const use = (event: FormEvent) => {
    event.preventDefault();
    try {
      keepManner(manner);
    } catch {
      toast.error('This browser keeps nothing for this page: the choice cannot be kept.');
      return;
    }
    window.location.reload();
  };
  return (
    <main className="mx-auto w-full max-w-[860px] p-5">
      <h1 className="text-2xl font-bold">Units</h1>
      <p className="mt-1 max-w-[68ch]">
        How numbers are shown on this device. A field takes any unit at all times (3/8 in, 10 psi, 16 AWG, 4u7, 1,5 kV) and keeps
        what was typed; what two people could read differently is refused. Run sheets, runs, files and the terminal keep SI units
        and the units that were typed, as several people read them.
      </p>
      <form className="mt-4 grid gap-x-8 gap-y-4 md:grid-cols-[1fr_280px]" onSubmit={use}>
        <div className="space-y-4">
          {choices.map(({ of, title, options }) => (
            <fieldset key={of}>
              <legend className="font-bold">{title}</legend>
              {options.map((option) => (
                <label key={option.value} className="flex min-h-7 items-center gap-2">
                  <input
                    type="radio"
                    name={of}
                    checked={manner[of] === option.value}
                    onChange={() => setManner({ ...manner, [of]: option.value })}
                  />
                  {option.title}
                </label>
              ))}
            </fieldset>
          ))}
          <Button type="submit" disabled={!isNew}>
            Use these units
          </Button>
          <p className="text-dim">{isNew ? 'The page reloads; nothing that was typed is lost.' : 'These are in use.'}</p>
        </div>
        <AsItLooks manner={manner} />
      </form>
    </main>
  );
}
