import type { BillLine } from '@vast-surge/core/study';
import { printQuantity } from '@vast-surge/core/quantity';
import { printPrice } from '../../app/currency.ts';

const fromWords: Readonly<Record<BillLine['from'], string>> = { shelf: 'on the shelf', buy: 'to buy', own: 'your own' };

function Sum({ lines }: { lines: readonly BillLine[] }) {
  const cost = lines.reduce((sum, { price }) => sum + price, 0);
  return (
    <tfoot>
      <tr>
        <td colSpan={4} className="font-bold">
          To buy, about; all of it{' '}
          {printQuantity(
            lines.reduce((sum, { mass }) => sum + mass, 0),
            'kg',
            { digits: 2 },
          )}
        </td>
        <td className="figure text-right font-bold">{printPrice(Number(cost.toPrecision(3)))}</td>
      </tr>
    </tfoot>
  );
}

/** What a design takes, place by place: what is there, and what has to be bought at about which price. */
export function Bill({ lines }: { lines: readonly BillLine[] }) {
  return (
    <table className="w-full border-collapse text-15 [&_td]:py-1 [&_td]:pr-3 [&_td]:align-top">
      <caption className="sr-only">Bill of materials</caption>
      <thead className="text-left text-14 text-dim">
        <tr className="border-b border-ink">
          {['Place', 'Pieces', 'What', 'From'].map((title) => (
            <th key={title} scope="col" className="pr-3 font-normal">
              {title}
            </th>
          ))}
          <th scope="col" className="text-right font-normal">
            About
          </th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={line.place} className="border-b border-rule">
            <td>{line.place}</td>
            <td className="figure text-right">{line.count}</td>
            <td>
              {line.what}
              {line.tags.length > 0 && (
                <span className="flex flex-wrap gap-x-2 text-14 text-dim">
                  {line.tags.map((tag) => (
                    <span key={tag} className="whitespace-nowrap">
                      {tag}
                    </span>
                  ))}
                </span>
              )}
              {line.confirm !== '' && (
                <span className="block border-l-4 border-warning pl-2 text-14">
                  Their label does not say it: confirm {line.confirm} before you build.
                </span>
              )}
            </td>
            <td className={`whitespace-nowrap ${line.from === 'buy' ? 'font-bold' : 'text-dim'}`}>{fromWords[line.from]}</td>
            <td className="figure text-right">{line.from === 'buy' ? printPrice(Number(line.price.toPrecision(2))) : ''}</td>
          </tr>
        ))}
      </tbody>
      <Sum lines={lines} />
    </table>
  );
}
