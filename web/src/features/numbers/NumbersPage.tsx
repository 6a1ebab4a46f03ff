import { numberInPlayingOrder, programConflicts, programText } from '@rackle/core';
import { useApp, useDoor, useEdit, usePlaces, useSetlist, useSongs } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { Stamp } from '../../ui/Stamp';
import { Tape } from '../../ui/Tape';
import { tapesOf } from '../../state/tapes';

/** The program map: which number recalls what. */
export function NumbersPage() {
  const setlist = useSetlist();
  const songs = useSongs();
  const places = usePlaces();
  const edit = useEdit();
  const door = useDoor();
  const position = useApp(({ live }) => live.snapshot.position);
  if (!setlist) return <p className="p-6 text-lg text-ink2">No setlist yet.</p>;
  const conflicts = new Set(programConflicts(setlist.programs).flat());
  const from = setlist.programsFrom;
  const seen = new Set<string>();
  const rows = places.filter((place) => {
    const key = `${place.song.id} ${place.patch.id} ${place.blend?.id ?? ''}`;
    return seen.has(key) ? false : seen.add(key);
  });
  return (
    <div className="mx-auto max-w-5xl px-4 py-4">
      <div className="flex items-end gap-4 border-b border-ink pb-2">
        <h1 className="named text-4xl">Numbers</h1>
        <span className="pb-1 text-ink2">programs read <Choice label="programs count from" value={String(from)} groups={[{ name: '', items: [{ value: '0', label: '0 to 127' }, { value: '1', label: '1 to 128' }] }]} onChange={(value) => edit({ label: 'change how programs count', setlists: [{ ...setlist, programsFrom: value === '0' ? 0 : 1 }] })} />, middle C is <Choice label="middle C" value={setlist.middleC} groups={[{ name: '', items: [{ value: 'C3', label: 'C3' }, { value: 'C4', label: 'C4' }] }]} onChange={(value) => edit({ label: 'change the name of middle C', setlists: [{ ...setlist, middleC: value as 'C3' | 'C4' }] })} /></span>
        <span className="ml-auto"><Button onClick={() => edit({ label: 'number in playing order', setlists: [{ ...setlist, programs: numberInPlayingOrder(setlist, new Map(Object.entries(songs))) }] })}>Number in playing order</Button></span>
      </div>
      <table className="mt-2 w-full text-left">
        <thead><tr className="text-[13px] text-ink2"><th className="w-32">program</th><th className="w-20" /><th>patch</th><th>song</th><th className="w-20" /><th className="w-24" /></tr></thead>
        <tbody>
          {rows.map((place) => {
            const line = setlist.programs.find(({ target }) => target.songId === place.song.id && target.patchId === place.patch.id && target.blendId === (place.blend?.id ?? null));
            return (
              <tr key={place.position} className={`h-10 border-t border-rule ${place.position === position ? 'bg-ground2' : ''}`}>
                <td className="mono text-lg">
                  {line ? <NumberField label={`program of ${place.patch.name}`} value={line.program} min={0} max={127} show={(value) => programText({ ...line, program: value }, from)} read={(text) => { const value = Number(text); return Number.isInteger(value) ? value - from : null; }}
                    onChange={(program) => edit({ label: 'change a number', setlists: [{ ...setlist, programs: setlist.programs.map((other) => (other === line ? { ...other, program } : other)) }] })} /> : '·'}
                  {line && conflicts.has(line) && <> <Stamp>twice</Stamp></>}
                </td>
                <td><span className="flex h-4 w-10">{tapesOf(place.song, place.patch.id).map((tape, i) => <Tape key={i} tape={tape} className="flex-1" />)}</span></td>
                <td className="named text-xl">{place.blend ? <span className="pl-4 italic">… {place.blend.name}</span> : place.patch.name}</td>
                <td className="text-ink2">{place.song.name}</td>
                <td>{line && <button type="button" aria-pressed={line.pinned} className={`min-h-9 px-2 ${line.pinned ? 'bg-ink font-bold text-ground' : 'underline decoration-dotted'}`} onClick={() => edit({ label: 'pin a number', setlists: [{ ...setlist, programs: setlist.programs.map((other) => (other === line ? { ...other, pinned: !other.pinned } : other)) }] })}>{line.pinned ? 'pinned' : 'pin'}</button>}</td>
                <td className="text-right"><Button look="plain" onClick={() => door.post({ type: 'recall', position: place.position })}>try it</Button></td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {rows.length === 0 && <p className="mt-4 text-lg text-ink2">No patches yet, so nothing to number.</p>}
    </div>
  );
}
