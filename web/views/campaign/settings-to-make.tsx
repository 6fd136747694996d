import { useMemo, useState } from 'react';
import type { StoredCampaign } from '@vast-surge/contract';
import { betterSetting, settingWords, turnsTold, type Kept, type Place } from '@vast-surge/core/campaign';
import type { Rig } from '@vast-surge/core/rig';
import { failureOf } from '../../app/api.ts';
import { Button } from '../../ui/button.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';
import { useWrite } from './use-campaign.ts';

/** What to turn and type before the next shot: what differs from the shot before it stands out. */
export function Settings({ rig, place, before }: { rig: Rig; place: Place; before: Place | null }) {
  return (
    <ul aria-label="Settings to make" className="mt-1">
      {place.setting.values.map(({ path, title, text, value }) => {
        const was = before?.setting.values.find((one) => one.path === path);
        const changes = was?.text !== text;
        const turns = was && changes ? turnsTold(rig, path, was.value, value) : null;
        return (
          <li key={path} className={changes ? 'font-bold' : ''}>
            {title} <span className="figure text-30 font-bold">{text}</span>{' '}
            <span className="text-15 font-normal text-dim">
              {was === undefined ? 'to set' : changes ? `to set; it was ${was.text}` : 'stays'}
            </span>
            {turns !== null && <span className="block text-17">{turns}</span>}
          </li>
        );
      })}
    </ul>
  );
}

/** Where the next shot teaches more than where it stands, of a campaign that goes by what was read. */
export function Better({ stored, kept, place, by }: { stored: StoredCampaign; kept: Kept; place: Place; by: string }) {
  const k = useMemo(() => betterSetting(kept), [kept]);
  const { write, isWriting } = useWrite(stored.id);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [id] = useState(() => crypto.randomUUID());
  const setting = k === null ? undefined : kept.campaign.settings[k];
  if (k === null || !setting) return null;
  const take = async () => {
    if (by.trim() === '') {
      setTrouble('Enter the initials of who acts first: the book says who chose it.');
      return;
    }
    try {
      await write({ kind: 'setting', by: by.trim(), place: place.place, setting: k, text: 'it teaches the most there.' }, id);
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
  return (
    <div className="no-print mt-2 border-l-4 border-select pl-2">
      <p>
        By what was read, a shot teaches the most at <b>{settingWords(setting)}</b>.
      </p>
      <Button className="mt-1" disabled={isWriting} onClick={() => void take()}>
        Fire shot {place.place + 1} there
      </Button>
      <TroubleLine look="words">{trouble}</TroubleLine>
    </div>
  );
}
