import { Plus, Trash2 } from 'lucide-react';
import { variedFields } from '@vast-surge/core/campaign';
import { quantityAt, type Rig } from '@vast-surge/core/rig';
import { Ask } from '../../ui/ask.tsx';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { askedFields, standsAt, type Form, type Read, type VariedText } from './series-form.ts';

/** More fields than anybody varies at once. */
const mostVaried = 4;

function NotThis({ title, onRemove }: { title: string; onRemove: () => void }) {
  return (
    <button type="button" aria-label={`Do not vary ${title}`} className="min-h-8 min-w-6" onClick={onRemove}>
      <Trash2 size={16} aria-hidden />
    </button>
  );
}

interface VariedRowProps {
  readonly rig: Rig;
  readonly n: number;
  readonly one: VariedText;
  readonly reasons: Read['varied'][number];
  readonly hasLevels: boolean;
  readonly onChange: (change: Partial<VariedText>) => void;
  readonly onRemove: (() => void) | null;
}

function VariedRow({ rig, n, one, reasons, hasLevels, onChange, onRemove }: VariedRowProps) {
  const field = quantityAt<string>(rig, one.path)?.field;
  return (
    <div role="group" aria-label={`Varied ${n}`} className={n > 1 ? 'mt-2 border-l-4 border-rule pl-2' : ''}>
      <div className="flex items-end gap-2 border-b border-rule py-1">
        <label className="min-w-0 flex-1">
          {n === 1 ? 'Vary' : 'and'}
          <Select
            aria-label={n === 1 ? 'Vary' : `and vary, ${n}`}
            className="mt-1 w-full"
            value={one.path}
            onChange={({ target: { value: path } }) => onChange({ path, from: standsAt(rig, path), to: standsAt(rig, path) })}
          >
            {variedFields(rig).map(({ path, title }) => (
              <option key={path} value={path}>
                {title}
              </option>
            ))}
          </Select>
        </label>
        {onRemove && <NotThis title={field?.title ?? one.path} onRemove={onRemove} />}
      </div>
      {field &&
        (['from', 'to'] as const).map((key) => (
          <Ask
            key={key}
            field={{ ...field, title: key === 'from' ? 'From' : 'To' }}
            text={one[key]}
            reason={reasons[key] ?? null}
            onText={(text) => onChange({ [key]: text })}
          />
        ))}
      {hasLevels && (
        <Ask
          field={askedFields.steps}
          text={one.steps}
          reason={reasons.steps ?? null}
          onText={(text) => onChange({ steps: text })}
        />
      )}
    </div>
  );
}

/** The fields that are varied, one by one. */
export function VariedRows({ rig, form, read, set }: { rig: Rig; form: Form; read: Read; set: (change: Partial<Form>) => void }) {
  const { varied, design } = form;
  const free = variedFields(rig).find(({ path }) => !varied.some((one) => one.path === path));
  return (
    <>
      {varied.map((one, i) => (
        <VariedRow
          key={i}
          rig={rig}
          n={i + 1}
          one={one}
          reasons={read.varied[i] ?? {}}
          hasLevels={design !== 'central-composite'}
          onChange={(change) => set({ varied: varied.map((other, k) => (k === i ? { ...other, ...change } : other)) })}
          onRemove={varied.length > 1 ? () => set({ varied: varied.filter((_, k) => k !== i) }) : null}
        />
      ))}
      {free && varied.length < mostVaried && (
        <Button
          look="quiet"
          className="mt-1"
          onClick={() => set({ varied: [...varied, { path: free.path, from: free.text, to: free.text, steps: '1' }] })}
        >
          <Plus size={16} aria-hidden /> Vary another field
        </Button>
      )}
    </>
  );
}
