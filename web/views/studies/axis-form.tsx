import { fieldName, spotTitle, type Rig } from '@vast-surge/core/rig';
import { axisScales, usualAxis, type AskedAxis, type AxisScale, type ReadAxis } from '@vast-surge/core/study';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { fieldsOf, type FieldChoice } from './fields.ts';
import { TroubleLine } from '../../ui/trouble-line.tsx';

const scaleTitles: { readonly [K in AxisScale]: string } = {
  even: 'even steps',
  log: 'logarithmic steps',
  E6: 'E6 values',
  E12: 'E12 values',
  E24: 'E24 values',
  AWG: 'wire gauges',
  list: 'a list',
};

interface Props {
  readonly rig: Rig;
  readonly asked: AskedAxis;
  readonly read: ReadAxis;
  /** Fields that what is drawn depends on, first of all. */
  readonly levers: readonly string[];
  readonly label: string;
  readonly onChange: (asked: AskedAxis) => void;
  readonly onRemove?: () => void;
}

function Entry({
  label,
  value,
  reason,
  wide = false,
  onText,
}: {
  label: string;
  value: string;
  reason: string | null;
  wide?: boolean;
  onText: (text: string) => void;
}) {
  return (
    <label className="flex items-baseline gap-2">
      {label}
      <input
        className={`figure border bg-plate px-2 py-1 ${wide ? 'w-72 max-w-full' : 'w-28'} ${reason === null ? 'border-rule' : 'border-over'}`}
        value={value}
        aria-invalid={reason !== null}
        onChange={(event) => onText(event.target.value)}
      />
    </label>
  );
}

const Options = ({ choices }: { choices: readonly FieldChoice[] }) =>
  choices.map(({ path, title }) => (
    <option key={path} value={path}>
      {title}
    </option>
  ));

/** One field that is varied: which, from where to where, in what steps. */
export function AxisForm({ rig, asked, read, levers, label, onChange, onRemove }: Props) {
  const all = fieldsOf(rig);
  const first = all.filter(({ path }) => levers.includes(path));
  const spots = [...new Set(all.map(({ spot }) => spot))];
  const wrong = read.ok ? null : read;
  const reasonAt = (at: string) => (wrong?.at === at ? wrong.reason : null);
  const titles: { readonly [K: string]: string } = {
    from: 'From',
    to: 'To',
    steps: 'Steps',
    values: 'Values',
    path: 'Field',
    scale: 'Scale',
  };
  return (
    <fieldset className="flex flex-wrap items-baseline gap-x-4 gap-y-2 border-b border-rule pb-3">
      <legend className="sr-only">{label}</legend>
      <label className="flex min-w-0 items-baseline gap-2 font-bold">
        {label}
        <Select
          className="max-w-[20rem]"
          value={asked.path}
          onChange={(event) => {
            const usual = usualAxis(rig, event.target.value);
            onChange(
              usual
                ? { ...usual, steps: Math.min(usual.steps, asked.steps || usual.steps) }
                : { ...asked, path: event.target.value },
            );
          }}
        >
          {!all.some(({ path }) => path === asked.path) && <option value={asked.path}>{fieldName(rig, asked.path)}</option>}
          {first.length > 0 && (
            <optgroup label="It depends on">
              <Options choices={first.map((one) => ({ ...one, title: fieldName(rig, one.path) }))} />
            </optgroup>
          )}
          {spots.map((spot) => (
            <optgroup key={spot} label={spotTitle(rig, spot)}>
              <Options choices={all.filter((one) => one.spot === spot && !levers.includes(one.path))} />
            </optgroup>
          ))}
        </Select>
      </label>
      {asked.scale === 'list' ? (
        <Entry
          label="values"
          wide
          value={asked.values}
          reason={reasonAt('values')}
          onText={(values) => onChange({ ...asked, values })}
        />
      ) : (
        <>
          <Entry label="from" value={asked.from} reason={reasonAt('from')} onText={(from) => onChange({ ...asked, from })} />
          <Entry label="to" value={asked.to} reason={reasonAt('to')} onText={(to) => onChange({ ...asked, to })} />
        </>
      )}
      <span className="flex items-baseline gap-2">
        {(asked.scale === 'even' || asked.scale === 'log') && (
          <input
            aria-label={`${label}: steps`}
            inputMode="numeric"
            className={`figure w-16 border bg-plate px-2 py-1 ${reasonAt('steps') === null ? 'border-rule' : 'border-over'}`}
            value={Number.isFinite(asked.steps) ? asked.steps : ''}
            aria-invalid={reasonAt('steps') !== null}
            onChange={(event) => onChange({ ...asked, steps: event.target.value === '' ? NaN : Number(event.target.value) })}
          />
        )}
        <Select
          aria-label={`${label}: scale`}
          value={asked.scale}
          onChange={(event) => {
            const scale = axisScales.find((one) => one === event.target.value) ?? 'even';
            const values = asked.values === '' ? `${asked.from}, ${asked.to}` : asked.values;
            onChange({ ...asked, scale, values, steps: asked.steps || 25 });
          }}
        >
          {axisScales.map((scale) => (
            <option key={scale} value={scale}>
              {scaleTitles[scale]}
            </option>
          ))}
        </Select>
      </span>
      {onRemove && (
        <Button look="quiet" onClick={onRemove}>
          Remove
        </Button>
      )}
      {wrong && (
        <TroubleLine look="words" className="w-full text-14">
          {titles[wrong.at] ?? wrong.at}: {wrong.reason}.
        </TroubleLine>
      )}
    </fieldset>
  );
}
