import { FASTEST_BPM, SLOWEST_BPM, quartersOf, type Song } from '@rackle/core/show';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { TEMPO_NOTES, countedTempo } from './tempoNote';

const SHOWN_DECIMALS = 100;
const shown = (value: number): string => String(Math.round(value * SHOWN_DECIMALS) / SHOWN_DECIMALS);

/** A tempo, typed as its song counts it. @param bpm and what `onChange` gets: in quarter notes a minute */
export function TempoField({
  label,
  song,
  bpm,
  className = '',
  onChange,
}: {
  label: string;
  song: Song;
  bpm: number;
  className?: string;
  onChange: (bpm: number) => void;
}) {
  const quarters = quartersOf(song.tempoNote);
  const value = countedTempo(song, bpm);
  return (
    <NumberField
      label={label}
      value={value}
      min={SLOWEST_BPM / quarters}
      max={FASTEST_BPM / quarters}
      show={shown}
      read={(text) => {
        const typed = Number(text.replace(',', '.'));
        if (text.trim() === '' || !Number.isFinite(typed)) return null;
        // What reads the same is the same.
        return text.trim() === shown(value) ? value : typed;
      }}
      className={`mono ${className}`}
      onChange={(typed) => onChange(Math.min(FASTEST_BPM, Math.max(SLOWEST_BPM, typed * quarters)))}
    />
  );
}

/** The note that the tempo of a song counts: what stays is the tempo, what changes its number. */
export const TempoNote = ({ song, onChange }: { song: Song; onChange: (label: string, next: Song) => void }) => (
  <Choice
    label="note that the tempo counts"
    value={song.tempoNote}
    items={TEMPO_NOTES.map(({ note, sign }) => ({ value: note, label: sign }))}
    onChange={(tempoNote) => onChange('count the tempo by another note', { ...song, tempoNote })}
  />
);
