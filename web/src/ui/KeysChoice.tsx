import { Choice } from './Choice';

/** Whose the keys of a layer are. */
type Keys = 'shared' | 'taken' | 'none';

const WORDS: Record<Keys, string> = {
  shared: 'with what else lies there',
  taken: 'it takes its keys',
  none: 'by a role only, no key',
};

/** Whether a layer shares its keys with what else lies there, takes them, or is played by no key. */
export function KeysChoice({ label, value, onChange }: { label: string; value: Keys; onChange: (keys: Keys) => void }) {
  return (
    <Choice
      label={label}
      value={value}
      items={(['shared', 'taken', 'none'] as const).map((keys) => ({ value: keys, label: WORDS[keys] }))}
      onChange={onChange}
    />
  );
}
