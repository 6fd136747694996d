import type { Meta, StoryObj } from '@storybook/react-vite';
import { kindsOf, newBlock, slotTitles } from '@vast-surge/core/kind';
import { slots } from '@vast-surge/core/block';
import { RigReading } from '@vast-surge/core/figure';
import { newRig, withLoadKind, withBlock } from '@vast-surge/core/rig';
import { Strokes } from './glyph.tsx';

// The rails as far apart as on the line.
const [width, height, top, bottom] = [190, 146, 46, 126];

/** Every kind of every place, as the line draws it: a new kind stands here by being in the registry. */
function AllGlyphs() {
  return (
    <div className="space-y-5">
      {slots.map((slot) => (
        <section key={slot}>
          <h2 className="font-bold">{slotTitles[slot]}</h2>
          <div className="flex flex-wrap gap-3">
            {kindsOf(slot).map((definition) => {
              const block = newBlock(definition);
              const rig = slot === 'load' ? withLoadKind(newRig(), block) : withBlock(newRig(), slot, block);
              return (
                <figure key={definition.kind} className="border border-rule bg-plate">
                  <svg width={width} height={height} role="img" aria-label={definition.title}>
                    <path d={`M0 ${top}H${width}M0 ${bottom}H${width}`} stroke="currentColor" strokeWidth={2} />
                    <Strokes of={definition.glyph(new RigReading(rig).ownOf(slot))({ x: width / 2, top, bottom })} />
                  </svg>
                  <figcaption className="max-w-[190px] border-t border-rule px-2 py-1 text-14">{definition.title}</figcaption>
                </figure>
              );
            })}
          </div>
        </section>
      ))}
    </div>
  );
}

export default { title: 'Glyphs', component: AllGlyphs } satisfies Meta<typeof AllGlyphs>;

export const EveryKind: StoryObj<typeof AllGlyphs> = {};
