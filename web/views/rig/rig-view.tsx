import { useHotkeys } from 'react-hotkeys-hook';
import { slots, type Slot } from '@vast-surge/core/block';
import { blockSelected, numberTouched, workingToggled } from '../../app/editor.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useWide } from '../../ui/use-wide.ts';
import { RigLine } from '../../schematic/line.tsx';
import { useRigPage } from '../rig-shell/use-rig-page.ts';
import { StageTabs } from '../stage-tabs.tsx';
import { BlockForm } from './block-form.tsx';
import { LimitsLadder } from './limits-ladder.tsx';
import { TracesPanel } from './traces-panel.tsx';
import { WorkingBar } from './working.tsx';

/** Keys of this page beside those that every page of a rig has. */
function useBlockKeys() {
  const dispatch = useAppDispatch();
  const selected = useAppSelector((s) => s.editor.selected);
  const open = useAppSelector((s) => s.editor.workingOpen);
  const move = (step: number) => {
    const next = slots[(slots.indexOf(selected) + step + slots.length) % slots.length];
    if (next) dispatch(blockSelected(next));
  };
  useHotkeys('[', () => move(-1), { useKey: true });
  useHotkeys(']', () => move(1), { useKey: true });
  useHotkeys('w', () => void dispatch(workingToggled(!open)), { useKey: true });
  useHotkeys('escape', () => void dispatch(workingToggled(false)));
}

/** The rig as one line, its blocks, what it comes to, and its limits. */
export function RigView() {
  const { id, document, seen, evaluation } = useRigPage();
  const dispatch = useAppDispatch();
  const selected = useAppSelector((s) => s.editor.selected);
  useBlockKeys();
  const touch = (focus: string) => dispatch(numberTouched(focus));
  const isWide = useWide();
  const select = (slot: Slot) => {
    dispatch(blockSelected(slot));
    // Below the answers the fields are out of sight.
    if (!isWide) window.document.getElementById('block-fields')?.scrollIntoView({ block: 'start' });
  };
  const fields = <BlockForm key="fields" id={id} document={seen} evaluation={evaluation} />;
  const answers = [
    <TracesPanel key="traces" evaluation={evaluation} name={document.name} onTouch={touch} />,
    <LimitsLadder key="limits" evaluation={evaluation} onTouch={touch} />,
  ];
  return (
    <main className="flex flex-1 flex-col lg:min-h-0">
      <h1 className="sr-only">Rig {document.name}</h1>
      <div className="px-5 empty:hidden">
        <StageTabs rig={seen.rig} edits />
      </div>
      <RigLine evaluation={evaluation} selected={selected} onSelect={select} />
      <div className="grid min-h-0 flex-1 grid-cols-1 lg:grid-cols-[300px_minmax(0,1fr)_300px] min-[108rem]:grid-cols-[340px_minmax(0,1fr)_360px]">
        {isWide ? [fields, ...answers] : [...answers, fields]}
      </div>
      <WorkingBar evaluation={evaluation} />
    </main>
  );
}
