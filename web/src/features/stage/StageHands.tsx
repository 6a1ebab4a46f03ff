import type { ReactNode } from 'react';
import type { Place } from '@rackle/core/show';
import { useApp } from '../../state/hooks';
import { useEvening } from '../../state/useEvening';
import { dbText } from '../../ui/format';
import { TapeLetter, letterOf } from '../../ui/Tape';
import { LevelFader, RoleFader, byRole, valueOf, valueText } from '../hands';

const MOST_VALUES = 8;

/** Large faders for whoever has no knobs: what the patch's roles move, and the levels of its layers. */
export function StageHands({ here }: { here: Place }) {
  const controls = useApp(({ live }) => live.controls.controls);
  const values = [...byRole(controls).values()].filter((control) => valueOf(control) !== null).slice(0, MOST_VALUES);
  const layers = useLayersHere(here);
  return (
    <section
      aria-label="faders"
      className="slide-in absolute bottom-[60px] right-0 top-0 z-30 max-[899px]:static max-[899px]:order-1 max-[899px]:h-80 max-[899px]:border-l-0 flex max-w-full flex-col border-b border-l border-ink bg-ground pl-4 any-pointer-coarse:bottom-[80px]"
    >
      <div className="flex min-h-0 flex-1 gap-8 overflow-x-auto py-2">
        <Group name="what you use">
          {values.map((control) => (
            <Column key={control.role} name={control.role} text={valueText(valueOf(control))}>
              <RoleFader role={control.role} control={control} upright className="mx-auto h-full w-16" />
            </Column>
          ))}
          {values.length === 0 && <p className="w-32 text-ink2">No role moves a value in this patch.</p>}
        </Group>
        <Group name="levels, until the next recall">
          {layers.map(({ id, name, tape, letter, levelDb }) => (
            <Column
              key={id}
              name={
                <>
                  <TapeLetter tape={tape} letter={letter} /> {name}
                </>
              }
              text={levelDb === null ? '' : dbText(levelDb)}
            >
              <LevelFader layerId={id} name={name} className="mx-auto h-full w-16" />
            </Column>
          ))}
        </Group>
      </div>
    </section>
  );
}

/** Layers of the patch that plays, those of the evening too, with their letters and what they stand at. */
function useLayersHere({ song, patch }: Place) {
  const evening = useEvening(song.id);
  const balance = useApp(({ live }) => live.balance.layers);
  const own = [...patch.parts, ...song.standing].flatMap(({ layerId }) => {
    const at = song.layers.findIndex(({ id }) => id === layerId);
    return at < 0 ? [] : [{ ...song.layers[at], letter: letterOf(at) }];
  });
  const standing = evening.map(({ layer, at }) => ({ ...layer, letter: letterOf(song.layers.length + at) }));
  return [...own, ...standing].map(({ id, name, tape, letter }) => ({
    id: id as string,
    name: name as string,
    tape,
    letter,
    levelDb: balance.find((layer) => layer.layerId === id)?.levelDb ?? null,
  }));
}

function Group({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div role="group" aria-label={name} className="flex min-h-56 flex-col">
      <h2 className="text-[13px] font-bold text-ink2">{name}</h2>
      <div className="flex min-h-0 flex-1 gap-3">{children}</div>
    </div>
  );
}

function Column({ name, text, children }: { name: ReactNode; text: string; children: ReactNode }) {
  return (
    <div className="flex w-24 flex-col text-center">
      <span dir="auto" className="named h-11 overflow-hidden text-lg leading-[22px]">
        {name}
      </span>
      <span className="min-h-0 flex-1 py-4">{children}</span>
      <span className="mono text-[13px]">{text}</span>
    </div>
  );
}
