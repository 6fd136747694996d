import { useMemo, useState } from 'react';
import { ArrowLeft, Printer } from 'lucide-react';
import { format } from 'date-fns';
import { Link, useSearchParams } from 'react-router';
import type { StoredPart } from '@vast-surge/contract';
import { mainValueOf, partKind, voltageOf } from '@vast-surge/core/part';
import { useShelf } from '../../app/bench.ts';
import { Button } from '../../ui/button.tsx';
import { PartsFrame } from './frame.tsx';
import { kindWords, short } from './words.tsx';
import { Select } from '../../ui/select.tsx';

const sizes = {
  small: { title: '38 × 21 mm', width: '38mm', height: '21mm', tag: '15pt' },
  middle: { title: '63 × 34 mm', width: '63mm', height: '34mm', tag: '24pt' },
} as const;
type Size = keyof typeof sizes;

function Label({ stored: { part, updatedAt }, size }: { stored: StoredPart; size: Size }) {
  const { width, height, tag } = sizes[size];
  const value = mainValueOf(part);
  const voltage = voltageOf(part);
  return (
    <li
      style={{ width, height }}
      className="flex break-inside-avoid flex-col justify-between overflow-hidden border border-black bg-white p-[1.5mm] text-black"
    >
      <b className="figure leading-none whitespace-nowrap" style={{ fontSize: tag }}>
        {part.tag}
      </b>
      <span className="figure text-[9pt] leading-tight font-bold whitespace-nowrap">
        {value ? short(value.value, value.unit) : 'not measured'}
        {voltage && ` · ${short(voltage.value, 'V')}${part.kind === 'capacitor' ? ' DC' : ''}`}
      </span>
      {size === 'middle' && <span className="truncate text-[8pt] leading-tight">{kindWords(part)}</span>}
      {size === 'middle' && <span className="truncate text-[8pt] leading-tight">{part.name}</span>}
      <span className="truncate text-[6.5pt] leading-tight">
        {part.condition}, {format(new Date(updatedAt), 'd MMM yyyy')}
        {partKind(part.kind).holdsCharge && ' · verify before you touch'}
      </span>
    </li>
  );
}

/** Labels to print, cut and stick on: the tag large enough to be read at arm's length. */
export function LabelsView() {
  const shelf = useShelf();
  const [params] = useSearchParams();
  const [size, setSize] = useState<Size>('middle');
  const wanted = params.get('parts') ?? '';
  const parts = useMemo(() => {
    const ids = new Set(wanted.split(','));
    return shelf.parts.filter((p) => ids.has(p.id));
  }, [shelf.parts, wanted]);
  return (
    <PartsFrame shelf={shelf}>
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3 sm:px-8 print:overflow-visible print:p-0">
        <div className="no-print mb-4 flex flex-wrap items-center gap-3">
          <Link className="inline-flex items-center gap-1 text-select underline" to="/parts">
            <ArrowLeft size={16} aria-hidden /> Back to the shelf
          </Link>
          <label className="flex items-center gap-2">
            Size
            <Select value={size} onChange={(event) => setSize(event.target.value as Size)}>
              {(Object.keys(sizes) as Size[]).map((id) => (
                <option key={id} value={id}>
                  {sizes[id].title}
                </option>
              ))}
            </Select>
          </label>
          <Button look="primary" disabled={parts.length === 0} onClick={() => window.print()}>
            <Printer size={16} aria-hidden /> Print {parts.length === 1 ? '1 label' : `${parts.length} labels`}
          </Button>
        </div>
        {shelf.loaded && parts.length === 0 && <p className="no-print">No part to label: choose some on the shelf first.</p>}
        <ul className="flex flex-wrap gap-[2mm]">
          {parts.map((stored) => (
            <Label key={stored.id} stored={stored} size={size} />
          ))}
        </ul>
      </div>
    </PartsFrame>
  );
}
