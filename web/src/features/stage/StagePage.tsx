import { useLayoutEffect, useRef, type ReactNode } from 'react';
import { keyName } from '@rackle/core/midi';
import { positionAt, ticksPerBar } from '@rackle/core/timeline';
import { useApp, useGear, useIsAlive, useNumbers, usePlaces, useSetlist } from '../../state/hooks';
import { shiftNote } from '../../ui/format';
import { KeyRuler } from '../../ui/KeyRuler';
import { letterOf } from '../../ui/Tape';
import { StageControls } from './StageControls';

const SOUND_WORDS = { off: 'off: press S', starting: 'starting …', waits: 'waits for a click', failed: 'failed' };

/** Black, and the patch's name as large as fits: where you are, what is next, what is wrong. */
export function StagePage() {
  const place = useApp(({ live }) => live.place);
  const transport = useApp(({ live }) => live.transport);
  const hands = useApp(({ live }) => live.hands);
  const sound = useApp(({ live }) => live.sound);
  const controls = useApp(({ live }) => live.controls);
  const isAlive = useIsAlive();
  const setlist = useSetlist();
  const gear = useGear();
  const places = usePlaces();
  const numberOf = useNumbers();
  const here = places[place.position] ?? null;
  if (!setlist || !here) return <p className="named p-8 text-4xl">Nothing to play yet. The setlist has no patches.</p>;
  const { song, patch, blend } = here;
  const next = places[place.nextPosition] ?? null;
  const cursor = place.cursor >= 0 ? places[place.cursor] : null;
  const { bar, beat } = positionAt(transport.tick, song.meter);
  const missing = gear?.ports.filter((port) => port.on && !isAlive(port)) ?? [];
  const parts = [...patch.parts, ...song.standing];
  const zones = parts.flatMap((part) => {
    const index = song.layers.findIndex((layer) => layer.id === part.layerId);
    const layer = song.layers[index];
    return layer
      ? [
          {
            id: layer.id,
            letter: letterOf(index),
            name: layer.name,
            tape: layer.tape,
            lowKey: part.zone.lowKey,
            highKey: part.zone.highKey,
            note: shiftNote(part.shift + (layer.followsTranspose ? song.transpose + hands.transpose : 0)),
            chosen: false,
            dimmed: blend?.values.find((value) => value.layerId === layer.id)?.mute ?? part.mute,
          },
        ]
      : [];
  });
  const name = blend ? blend.name : patch.name;
  const number = numberOf(song.id, patch.id, blend?.id ?? null);
  return (
    <div className="flex h-full flex-col px-6 pb-2" data-testid="stage">
      <div className="flex min-h-0 flex-1">
        <div className="flex min-w-0 flex-1 flex-col pr-6 pt-3">
          <p className="named truncate text-4xl font-medium text-ink2">
            {song.name}
            {blend && <> · {patch.name}</>}
          </p>
          <FittedName text={name} />
          <p className="named truncate pb-2 text-4xl font-medium text-ink2">
            {cursor ? (
              <>
                cursor on <b className="text-ink">{placeName(cursor, here.song.id)}</b>
              </>
            ) : next ? (
              <>
                then <b className="text-ink">{placeName(next, here.song.id)}</b>
              </>
            ) : (
              'last patch of the night'
            )}
          </p>
        </div>
        <div className="flex w-[340px] shrink-0 flex-col overflow-hidden border-l border-rule pl-6 pt-2">
          <div className="flex items-end justify-between border-b border-rule pb-2">
            {number === null ? (
              <span className="named py-8 text-3xl text-ink2" data-testid="stage-number">
                no number
              </span>
            ) : (
              <span className="named live-text text-[104px] leading-[0.85]" data-testid="stage-number">
                {number}
              </span>
            )}
            <span className="pb-1 text-right text-sm leading-5 text-ink2">
              program
              <br />
              from {setlist.programsFrom}
            </span>
          </div>
          <div className="border-b border-rule py-2">
            <div className="flex items-baseline justify-between">
              <span className="named text-2xl">{transport.playing ? 'playing' : 'timeline stands'}</span>
              <span className="mono text-2xl" data-testid="stage-bar">
                bar {bar} <span className="text-ink2">of {song.bars}</span>
              </span>
            </div>
            <div className="mt-2 h-2 bg-ground2">
              <div
                className="h-2 bg-ink"
                style={{ width: `${Math.min(100, (transport.tick / (ticksPerBar(song.meter) * song.bars)) * 100)}%` }}
              />
            </div>
            <div className="mt-2 flex items-center gap-1">
              {Array.from({ length: song.meter.beats }, (_, i) => (
                <span
                  key={i}
                  className={`h-3 flex-1 ${transport.playing && i + 1 === beat ? 'bg-live' : transport.playing && i + 1 < beat ? 'bg-ink' : 'bg-ground2'}`}
                />
              ))}
              <span className="mono w-12 text-right" data-testid="stage-tempo">
                {Math.round(transport.tempoBpm || song.tempoBpm)}
              </span>
            </div>
          </div>
          {patch.note && (
            <p className="line-clamp-2 border-b border-rule py-2 text-xl leading-6" title={patch.note}>
              {patch.note}
            </p>
          )}
          <dl className="grid grid-cols-[1fr_1.4fr] gap-y-1 py-2 text-[17px] leading-6">
            <Line name="pedal">{hands.pedal ? 'down' : 'up'}</Line>
            <Line name="key shift">
              {song.transpose + hands.transpose === 0 ? '0' : shiftNote(song.transpose + hands.transpose)}
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
            {hands.waiting.length > 0 && (
              <Line name="waiting">
                <span className="bg-ink px-1.5 text-ground">{hands.waiting.map(({ layer }) => layer).join(', ')}</span>
              </Line>
            )}
            {sound.loading.length > 0 && (
              <Line name="not ready">{sound.loading.map(({ layer }) => layer).join(', ')}</Line>
            )}
            <Line name="ports">
              {missing.length === 0 ? (
                'all alive'
              ) : (
                <span className="bg-ink px-1.5 text-ground">no {missing.map((port) => port.alias).join(', ')}</span>
              )}
            </Line>
            <Line name="sound">
              {sound.sound === 'on' ? (
                'on'
              ) : (
                <span className="bg-ink px-1.5 text-ground">{SOUND_WORDS[sound.sound]}</span>
              )}
            </Line>
          </dl>
        </div>
      </div>
      <StageControls controls={controls.controls} />
      <div className="border-t border-rule pt-2">
        <KeyRuler
          lowest={21}
          highest={108}
          zones={zones}
          keys={hands.keys}
          nameOf={(key) => keyName(key, setlist.middleC)}
          barHeight={zones.length > 5 ? 16 : 23}
        />
      </div>
    </div>
  );
}

function Line({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="text-ink2">{name}</dt>
      <dd className="min-w-0 truncate font-bold">{children}</dd>
    </>
  );
}

const placeName = (
  place: { song: { id: string; name: string }; patch: { name: string }; blend: { name: string } | null },
  songId: string,
): string =>
  place.song.id === songId ? (place.blend?.name ?? place.patch.name) : `${place.song.name}: ${place.patch.name}`;

const LINE_HEIGHT = 1.05;
const LARGEST_PX = 340;

/**
 * A name as large as its room, on up to three lines. Measured once for each name and room (one line at 100 px, the rest
 * is reckoned),
 * so that a recall costs the page a single layout.
 */
function FittedName({ text }: { text: string }) {
  const box = useRef<HTMLDivElement>(null);
  const line = useRef<HTMLHeadingElement>(null);
  useLayoutEffect(() => {
    const fit = (): void => {
      const { clientWidth, clientHeight } = box.current!;
      const { style } = line.current!;
      style.whiteSpace = 'nowrap';
      style.fontSize = '100px';
      const oneLinePx = (clientWidth / Math.max(1, line.current!.scrollWidth)) * 98;
      const most = Math.min(3, text.split(' ').length);
      let best = 0;
      for (let lines = 1; lines <= most; lines++) {
        // Words do not break evenly: a fifth is kept back for that.
        const size = Math.min(
          oneLinePx * lines * (lines === 1 ? 1 : 0.8),
          (clientHeight * 0.92) / (lines * LINE_HEIGHT),
          LARGEST_PX,
        );
        if (size > best * 1.15) {
          best = size;
          style.whiteSpace = lines === 1 ? 'nowrap' : 'normal';
        }
      }
      style.fontSize = `${Math.max(36, best)}px`;
    };
    fit();
    void document.fonts?.ready.then(() => {
      if (box.current) fit();
    });
    const watcher = new ResizeObserver(fit);
    watcher.observe(box.current!);
    return () => watcher.disconnect();
  }, [text]);
  return (
    <div ref={box} className="flex min-h-0 flex-1 items-center overflow-hidden">
      <h1 ref={line} className="named text-balance" style={{ lineHeight: LINE_HEIGHT }} data-testid="stage-name">
        {text}
      </h1>
    </div>
  );
}
