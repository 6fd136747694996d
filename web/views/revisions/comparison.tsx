import {
  compareEvaluations,
  evaluateRig,
  type ComparedFigure,
  type ComparedLimit,
  type Evaluation,
} from '@vast-surge/core/evaluation';
import { wordUse } from '@vast-surge/core/limit';
import { printPercent } from '@vast-surge/core/quantity';
import { differences, type RigDocument } from '@vast-surge/core/rig';
import { printFigure } from '@vast-surge/core/figure';
import { WorkedNumber } from '../../ui/worked-number.tsx';

export interface Compared {
  readonly title: string;
  readonly document: RigDocument;
}

interface RowProps {
  readonly title: string;
  readonly left: React.ReactNode;
  readonly right: React.ReactNode;
  /** By how much it changed, where that is a number. */
  readonly change?: string;
}

function Row({ title, left, right, change = '' }: RowProps) {
  return (
    <tr className="border-t border-rule">
      <th scope="row" className="py-1 pr-4 text-left align-top font-normal">
        {title}
      </th>
      <td className="py-1 pr-4 align-top break-words">{left}</td>
      <td className="py-1 pr-4 align-top break-words">{right}</td>
      <td className="figure py-1 text-right align-top whitespace-nowrap">{change}</td>
    </tr>
  );
}

function Table({
  caption,
  from,
  to,
  children,
  empty,
}: {
  caption: string;
  from: string;
  to: string;
  children: RowProps[];
  empty: string;
}) {
  return (
    <section className="mt-5">
      <h3 className="text-17 font-bold">{caption}</h3>
      {children.length === 0 ? (
        <p className="mt-1 text-dim">{empty}</p>
      ) : (
        <table className="mt-1 w-full table-fixed">
          <thead>
            <tr className="text-left text-13 text-dim">
              <th scope="col" className="w-[30%] font-normal">
                <span className="sr-only">What</span>
              </th>
              <th scope="col" className="pr-4 font-normal">
                {from}
              </th>
              <th scope="col" className="pr-4 font-normal">
                {to}
              </th>
              <th scope="col" className="w-24 text-right font-normal">
                Change
              </th>
            </tr>
          </thead>
          <tbody>
            {children.map((row) => (
              <Row key={row.title} {...row} />
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

const signed = (fraction: number): string =>
  `${fraction < 0 ? '−' : '+'}${printPercent(Math.abs(fraction), Math.abs(fraction) < 0.1 ? 2 : 3)}`;

/** By what share a figure changed. */
const shareOf = (from: ComparedFigure | null, to: ComparedFigure | null): string =>
  from && to && from.value !== 0 && Number.isFinite(to.value / from.value) ? signed(to.value / from.value - 1) : '';

/** By how much of the rating the worst case of a limit moved. */
const movedBy = (from: ComparedLimit | null, to: ComparedLimit | null): string =>
  from?.worst != null && to?.worst != null && Number.isFinite(to.worst - from.worst) ? signed(to.worst - from.worst) : '';

const text = (value: string | null) => (
  <span className="figure">{value === null ? 'no such field' : value === '' ? 'empty' : value}</span>
);

function FigureCell({ evaluation, id, figure }: { evaluation: Evaluation; id: string; figure: ComparedFigure | null }) {
  const whole = evaluation.figures.find((f) => f.id === id);
  if (!figure || !whole?.ok) return <span className="text-dim">not available</span>;
  const { unit } = whole.worked;
  const spread = figure.low !== figure.high;
  return (
    <>
      <WorkedNumber
        title={whole.title}
        printed={printFigure(id, figure.value, unit)}
        worked={whole.worked}
        rig={evaluation.rig}
        className="font-bold"
      />
      {spread && (
        <span className="figure block text-12 text-dim">
          {printFigure(id, figure.low, unit)} to {printFigure(id, figure.high, unit)}
        </span>
      )}
    </>
  );
}

function limitText(limit: ComparedLimit | null): React.ReactNode {
  if (!limit) return <span className="text-dim">not available</span>;
  if (limit.worst === null || limit.utilisation === null) return <span className="text-dim">no rating given</span>;
  const over = limit.worst > 1;
  return (
    <span className={over ? 'font-bold text-over' : ''}>
      {over && 'over: '}
      <span className="figure">{printPercent(limit.utilisation)}</span> of rating, worst case{' '}
      <span className="figure">{wordUse(limit.worst)}</span>
    </span>
  );
}

/** Two states of a rig side by side: only what differs. */
export function ComparisonOf({ from, to }: { from: Compared; to: Compared }) {
  const [before, after] = [evaluateRig(from.document.rig), evaluateRig(to.document.rig)];
  const { figures, limits } = compareEvaluations(before, after);
  const titles = { from: from.title, to: to.title };
  return (
    <>
      <Table caption="Values" {...titles} empty="Every value is the same.">
        {differences(from.document, to.document).map((d) => ({ title: d.title, left: text(d.from), right: text(d.to) }))}
      </Table>
      <Table caption="Figures" {...titles} empty="Every figure is the same to three digits.">
        {figures.map((f) => ({
          title: f.title,
          left: <FigureCell evaluation={before} id={f.id} figure={f.from} />,
          right: <FigureCell evaluation={after} id={f.id} figure={f.to} />,
          change: shareOf(f.from, f.to),
        }))}
      </Table>
      <Table caption="Limits" {...titles} empty="Every limit is the same to three digits.">
        {limits.map((l) => ({ title: l.title, left: limitText(l.from), right: limitText(l.to), change: movedBy(l.from, l.to) }))}
      </Table>
    </>
  );
}
