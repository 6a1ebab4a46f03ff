import { useRef, useState } from 'react';
import { Cue, withCue, type CueId, type CueKind } from '@rackle/core/show';
import { useApp, useGear } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Choice } from '../../ui/Choice';
import { madeNow } from '../../ui/newRow';
import { cueTargets } from './cueTargets';
import { startedCue } from './newCue';
import { SoundHere } from './SoundHere';
import { useTimeline } from './timelineContext';

const OTHERS: readonly { kind: Exclude<CueKind, 'recall'>; label: string }[] = [
  { kind: 'preset', label: 'a preset of the gear, by name' },
  { kind: 'program', label: 'a program change' },
  { kind: 'controller', label: 'a controller' },
  { kind: 'note', label: 'a note' },
  { kind: 'lights', label: 'something for the lights' },
  { kind: 'text', label: 'a text to read on stage' },
  { kind: 'tempo', label: 'faster or slower' },
  { kind: 'message', label: 'any other message' },
];

const A_SOUND = 'sound';

/** Asks what belongs where the playhead stands; the answer may take its time while it moves on. */
export function CueHere() {
  const { song, tickNow, change, showCues } = useTimeline();
  const gear = useGear();
  const instruments = useApp(({ show }) => show.working.instruments);
  const askedAt = useRef(0);
  const [soundAt, setSoundAt] = useState<number | null>(null);
  const targets = cueTargets(song);
  const add = (chosen: string): void => {
    if (chosen === A_SOUND) return setSoundAt(askedAt.current);
    const id = newId<CueId>('cue');
    const target = targets.find(({ key }) => key === chosen);
    const other = OTHERS.find(({ kind }) => kind === chosen);
    const atTick = askedAt.current;
    const cue = target
      ? Cue.parse({ kind: 'recall', id, atTick, patchId: target.patch.id, blendId: target.blend?.id ?? null })
      : other
        ? startedCue(other.kind, id, atTick, { song, gear, instruments: Object.values(instruments) })
        : null;
    if (cue === null) return;
    madeNow(id);
    showCues();
    change('add a cue', withCue(song, cue));
  };
  const ground = { song, gear, instruments: Object.values(instruments) };
  const others = OTHERS.filter(({ kind }) => startedCue(kind, 'probe' as CueId, 0, ground) !== null);
  return (
    <>
      <Choice
        label="cue here: what belongs here"
        value=""
        unchosen="Cue here …"
        look="verb"
        groups={[
          { name: 'recall', items: targets.map(({ key, label }) => ({ value: key, label })) },
          {
            name: 'or',
            items: [
              { value: A_SOUND, label: 'a sound, to be searched …' },
              ...others.map(({ kind, label }) => ({ value: kind, label })),
            ],
          },
        ]}
        onOpen={() => (askedAt.current = tickNow())}
        onChange={add}
      />
      {soundAt !== null && (
        <SoundHere
          atTick={soundAt}
          onClose={(added) => {
            setSoundAt(null);
            if (added === null) return;
            madeNow(added);
            showCues();
          }}
        />
      )}
    </>
  );
}
