import type { WriteMeta } from '../formats/smf';
import type { Song } from '../show';
import { placedCues, tempoMapOf, tempoMapOfSong, TICKS_PER_QUARTER, ticksPerBeat } from '../timeline';

const SLOWEST_US = 0xffffff;
/** A tempo ramp is written as steps so long, each as long in time as that stretch of the ramp. */
const RAMP_STEP_TICKS = 240;

/** Tempo, meter, sections, texts and lyrics of a song, from a tick on. @param left takes what a file cannot say, in words */
export function conductorMetas(song: Song, fromTick: number, left: (words: string) => void): WriteMeta[] {
  const metas: WriteMeta[] = [...tempos(song, left), ...meters(song, left)];
  const { sections, lyrics } = song;
  sections.forEach(({ name, fromTick: atTick, toTick }, i) => {
    metas.push({ kind: 'text', type: 6, atTick, text: name });
    const next = sections[i + 1]?.fromTick ?? tempoMapOfSong(song).endTick;
    if (next !== toTick) left(`${name} lasts up to the next marker: a file knows no ends of sections`);
  });
  if (sections.some(({ repeats }) => repeats !== null)) left('sections that repeat others are written out');
  for (const { cue, atTick } of placedCues(song))
    if (cue.kind === 'text') metas.push({ kind: 'text', type: 7, atTick, text: cue.text });
  for (const { atTick, text } of lyrics) metas.push({ kind: 'text', type: 5, atTick, text });
  return metas.map((meta) => ({ ...meta, atTick: meta.atTick + fromTick })).sort((a, b) => a.atTick - b.atTick);
}

function tempos(song: Song, left: (words: string) => void): WriteMeta[] {
  const map = tempoMapOfSong(song);
  const nudges = placedCues(song).flatMap(({ cue, atTick }) =>
    cue.kind === 'tempo' ? [{ atTick, by: cue.percent }] : [],
  );
  const places = new Set<number>([
    ...song.map.tempos.map(({ atTick }) => atTick),
    ...nudges.map(({ atTick }) => atTick),
  ]);
  song.map.tempos.forEach(({ atTick, ramp }, i) => {
    const next = song.map.tempos[i + 1]?.atTick;
    if (!ramp || next === undefined) return;
    left('a tempo that changes little by little is written as steps');
    for (let tick = atTick + RAMP_STEP_TICKS; tick < next; tick += RAMP_STEP_TICKS) places.add(tick);
  });
  if (nudges.length > 0) left('tempo cues are written as tempos');
  const starts = [...places].filter((tick) => tick < map.endTick).sort((a, b) => a - b);
  return starts.map((atTick, i) => {
    const toTick = starts[i + 1] ?? map.endTick;
    const nudge = nudges.findLast((one) => one.atTick <= atTick);
    const factor = nudge === undefined || map.tempoTickAt(atTick) > nudge.atTick ? 1 : nudge.by / 100;
    const ms = (map.msAt(toTick) - map.msAt(atTick)) / factor;
    const us = Math.round((ms * 1000 * TICKS_PER_QUARTER) / (toTick - atTick));
    return { kind: 'tempo', atTick, usPerQuarter: Math.max(1, Math.min(SLOWEST_US, us)) };
  });
}

function meters(song: Song, left: (words: string) => void): WriteMeta[] {
  const { map } = song;
  const [first] = map.meters;
  const upbeat = map.upbeatTicks / ticksPerBeat(first);
  const metas: WriteMeta[] = [];
  if (upbeat > 0) {
    left('the upbeat is written as a bar of its own');
    if (Number.isInteger(upbeat)) metas.push({ kind: 'meter', atTick: 0, beats: upbeat, unit: first.unit });
    else left('the upbeat is no whole number of beats: bars count from it as from a whole one');
  }
  const whole = map.meters.map(({ bar, beats, unit }): WriteMeta => ({
    kind: 'meter',
    atTick: tempoMapOf(map).barTick(bar),
    beats,
    unit,
  }));
  return [...metas, ...whole];
}
