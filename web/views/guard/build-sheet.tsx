import { useRef } from 'react';
import { Printer } from 'lucide-react';
import { printQuantity } from '@vast-surge/core/quantity';
import type { BuildSheet } from '@vast-surge/core/study';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { printPart } from '../../ui/print-part.ts';
import { ColumnHeads } from '../../ui/column-heads.tsx';

const known = (value: number | null, unit: Parameters<typeof printQuantity>[1]): string =>
  value === null ? '–' : printQuantity(value, unit);

/** m² as the sections of conductors are written. */
const section = (value: number | null): string =>
  value === null ? 'more than is made: bar' : `${printQuantity(value * 1e6, '1', { trim: true })} mm²`;

const asText = (sheet: BuildSheet, name: string): string =>
  [
    `# Build sheet: ${name}`,
    '',
    ...sheet.wires.map(
      ({ from, to, V, I, action, made, note }) =>
        `- ${from} to ${to}: ${section(made)} copper, insulated for ${printQuantity(V, 'V')}; ${known(I, 'A')}, ${known(action, 'A²s')}. ${note}.`,
    ),
    '',
    '## Labels',
    ...sheet.labels.map((line) => `- ${line}`),
    '',
    '## Earth',
    ...sheet.earth.map((line) => `- ${line}`),
    '',
    '## To check',
    ...sheet.checks.map((line) => `- ${line}`),
    '',
  ].join('\n');

function List({ title, lines }: { title: string; lines: readonly string[] }) {
  return (
    <div>
      <h3 className="font-bold">{title}</h3>
      <ul className="text-15">
        {lines.map((line) => (
          <li key={line} className="border-t border-rule py-1">
            {line}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Labels as they are cut out: two beside each other, in letters that are read from a metre. */
function Labels({ lines }: { lines: readonly string[] }) {
  const part = useRef<HTMLDivElement>(null);
  return (
    <>
      <Button onClick={() => printPart(part.current)}>
        <Printer size={16} aria-hidden /> Print the labels
      </Button>
      <div ref={part} className="hidden grid-cols-2 gap-3 data-printing:grid" aria-hidden>
        {lines.map((line) => (
          <p key={line} className="break-inside-avoid border-2 border-ink p-3 text-19 font-bold">
            {line}
          </p>
        ))}
      </div>
    </>
  );
}

function Wires({ wires }: { wires: BuildSheet['wires'] }) {
  return (
    <table className="w-full min-w-[44rem] text-14">
      <ColumnHeads titles={['from', 'to', 'insulated for', 'peak', 'action', 'copper']} look="pr-3 text-left" />
      <tbody>
        {wires.map(({ id, from, to, V, I, action, made, note }) => (
          <tr key={id} className="border-t border-rule align-top">
            <th scope="row" className="pr-3 text-left font-normal">
              {from}
            </th>
            <td className="pr-3">
              {to}
              <span className="block text-13 text-dim">{note}</span>
            </td>
            <td className="figure pr-3">{printQuantity(V, 'V')}</td>
            <td className="figure pr-3">{known(I, 'A')}</td>
            <td className="figure pr-3">{known(action, 'A²s')}</td>
            <td className="figure font-bold">{section(made)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Wires with what they carry, labels, earth points, and what is checked before the first charge. */
export function BuildSheetView({ sheet, name }: { sheet: BuildSheet; name: string }) {
  return (
    <section aria-label="Build sheet" className="mt-6">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-17 font-bold">Build sheet</h2>
        <Button onClick={() => download(`${fileName(name)}-build-sheet.md`, asText(sheet, name), 'text/markdown')}>
          As text
        </Button>
      </div>
      <div className="mt-1 overflow-x-auto" tabIndex={0} role="group" aria-label="Wires">
        <Wires wires={sheet.wires} />
      </div>
      <div className="mt-3 grid gap-x-8 gap-y-4 md:grid-cols-3">
        <div>
          <List title="Labels to print" lines={sheet.labels} />
          <Labels lines={sheet.labels} />
        </div>
        <List title="Earth" lines={sheet.earth} />
        <List title="To check" lines={sheet.checks} />
      </div>
      <p className="mt-1 text-13 text-dim">
        Copper that one pulse warms from 20 to 80 °C, and never thinner than 0.75 mm²; the next section that is made (IEC 60228).
      </p>
    </section>
  );
}
