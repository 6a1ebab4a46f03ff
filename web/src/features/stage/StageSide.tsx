import type { ReactNode } from 'react';
import { sectionAt, type Place } from '@rackle/core/show';
import { tempoMapOfSong } from '@rackle/core/timeline';
import { useApp, useGear, useIsAlive, useNumbers, useSetlist } from '../../state/hooks';
import { useCountersAwaited } from '../../state/useCountersAwaited';
import { useWaits, waitWords } from '../../state/useWaits';
import { shiftNote } from '../../ui/format';
import { tempoText } from '../tempo';

const SOUND_WORDS = { off: 'off: press S', starting: 'starting …', waits: 'waits for a click', failed: 'failed' };

/** Beside the name: number, timeline, note, and how things stand. */
export function StageSide({ here }: { here: Place }) {
  const { patch } = here;
  return (
    <div className="flex w-[340px] shrink-0 flex-col overflow-hidden border-l border-rule pl-6 pt-2 max-[899px]:grid max-[899px]:w-full max-[899px]:order-2 max-[899px]:grid-cols-2 max-[899px]:gap-x-6 max-[899px]:border-l-0 max-[899px]:border-t max-[899px]:pl-0 max-[699px]:grid-cols-1">
      <Program here={here} />
      <Bars here={here} />
      {patch.note && (
        <p dir="auto" className="line-clamp-2 shrink-0 border-b border-rule py-2 text-xl leading-6" title={patch.note}>
          {patch.note}
        </p>
      )}
      <States here={here} />
    </div>
  );
}

/** The number that recalls what plays. */
function Program({ here: { song, patch, blend } }: { here: Place }) {
  const numberOf = useNumbers();
  const from = useSetlist()?.programsFrom ?? 1;
  const number = numberOf(song.id, patch.id, blend?.id ?? null);
  return (
    <div className="flex items-end justify-between border-b border-rule pb-2">
      {number === null ? (
        <span className="named py-3 text-3xl text-ink2" data-testid="stage-number">
          no number
        </span>
      ) : (
        <span
          className={`named live-text whitespace-nowrap leading-[0.85] ${number.length > 3 ? 'text-[68px]' : 'text-[88px]'}`}
          data-testid="stage-number"
        >
          {number}
        </span>
      )}
      <span className="pb-1 text-right text-sm leading-5 text-ink2">
        program
        <br />
        from {from}
      </span>
    </div>
  );
}

/** More beats to the bar than these stand without room between them. */
const MANY_BEATS = 24;

/** Where the timeline stands. */
function Bars({ here: { song } }: { here: Place }) {
  const transport = useApp(({ live }) => live.transport);
  const map = tempoMapOfSong(song);
  const { bar, beat } = map.positionAt(transport.tick);
  const { beats } = map.meterAt(transport.tick);
  const section = sectionAt(song.sections, transport.tick);
  const passed = transport.tick / map.endTick;
  const lookOf = (n: number): string =>
    !transport.playing || n > beat ? 'bg-ground2' : n === beat ? 'bg-live' : 'bg-ink';
  return (
    <div className="border-b border-rule py-2">
      <div className="flex items-baseline justify-between">
        <span className="named min-w-0 truncate text-2xl">
          {section !== null && <span data-testid="stage-section">{section.name}, </span>}
          {transport.playing ? 'playing' : 'timeline stands'}
        </span>
        <span className="mono text-2xl" data-testid="stage-bar">
          bar {bar} <span className="text-ink2">of {song.map.bars}</span>
        </span>
      </div>
      {transport.text !== '' && (
        <p className="named mt-1 bg-ink px-2 text-3xl leading-tight text-ground" data-testid="stage-text" dir="auto">
          {transport.text}
        </p>
      )}
      <div className="mt-2 h-2 bg-ground2">
        <div className="h-2 bg-ink" style={{ width: `${Math.min(100, passed * 100)}%` }} />
      </div>
      <div className={`mt-2 flex items-center ${beats > MANY_BEATS ? '' : 'gap-1'}`}>
        {Array.from({ length: beats }, (_, i) => (
          <span key={i} className={`h-3 flex-1 ${lookOf(i + 1)}`} />
        ))}
        <span className="mono w-12 text-right" data-testid="stage-tempo">
          {tempoText(song, transport.tempoBpm || map.bpmAt(transport.tick), 0)}
        </span>
      </div>
    </div>
  );
}

/** Pedal, key shift, what rings on, what waits, ports and sound. */
function States({ here: { entry, song } }: { here: Place }) {
  const hands = useApp(({ live }) => live.hands);
  const sound = useApp(({ live }) => live.sound);
  const waits = useWaits();
  const counters = useCountersAwaited();
  const shift = song.transpose + entry.keyShift + hands.transpose;
  return (
    <dl className="grid grid-cols-[1fr_1.4fr] gap-y-1 py-2 text-[17px] leading-6">
      <Line name="ports">
        <Ports />
      </Line>
      <Line name="sound">
        {sound.sound === 'on' ? 'on' : <span className="bg-ink px-1.5 text-ground">{SOUND_WORDS[sound.sound]}</span>}
      </Line>
      {waits.map((wait) => (
        <Line key={`${wait.layerId} ${wait.why}`} name={waitWords(wait)}>
          {wait.isOver ? wait.layer : <Strong>{wait.layer}</Strong>}
        </Line>
      ))}
      {counters.map((alias) => (
        <Line key={alias} name="first press">
          {alias} finds its place
        </Line>
      ))}
      <Line name="pedal">{hands.pedal ? 'down' : 'up'}</Line>
      <Line name="key shift">
        {shift === 0 ? '0' : shiftNote(shift)}
        {entry.keyShift !== 0 && ` (tonight ${shiftNote(entry.keyShift)})`}
        {hands.transpose !== 0 && ' (stage)'}
      </Line>
      {hands.holding && (
        <Line name="hold">
          <span className="bg-ink px-1.5 text-ground">keeps what sounds</span>
        </Line>
      )}
      <Line name="still ringing">
        {hands.carried.length === 0
          ? 'nothing'
          : hands.carried.map((layer) => `${layer.layer}, ${layer.notes}`).join(' · ')}
      </Line>
    </dl>
  );
}

function Ports() {
  const gear = useGear();
  const isAlive = useIsAlive();
  const missing = gear?.ports.filter((port) => port.on && !isAlive(port)) ?? [];
  return missing.length === 0 ? <>all alive</> : <Strong>no {missing.map((port) => port.alias).join(', ')}</Strong>;
}

/** What must not be overlooked. */
const Strong = ({ children }: { children: ReactNode }) => <span className="bg-ink px-1.5 text-ground">{children}</span>;

function Line({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="text-ink2">{name}</dt>
      <dd className="min-w-0 break-words font-bold">{children}</dd>
    </>
  );
}
