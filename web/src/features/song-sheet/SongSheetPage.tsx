import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { withPart, type Patch, type Song } from '@rackle/core/show';
import { useAct, useApp, useNumbers, useSetlist, useSong } from '../../state/hooks';
import { useLatest } from '../../ui/useLatest';
import { toggled } from '../../state/uiSlice';
import { Button } from '../../ui/Button';
import { Toggle } from '../../ui/Toggle';
import { AudioInputs } from './AudioInputs';
import { Elsewhere } from './Elsewhere';
import { ScoreGrid } from './ScoreGrid';
import { SheetHeader } from './SheetHeader';
import { SignalLine } from './SignalLine';
import { SIZES } from './sizes';
import { useSheetKeys } from './useSheetKeys';
import { useSongSheet } from './useSongSheet';
import { ZonesSection } from './ZonesSection';

/**
 * A song laid out like a score: layers down, patches across; under it the key ruler and the chosen layer's signal line.
 */
export function SongSheetPage() {
  const { songId } = useParams();
  const song = useSong(songId);
  if (!song)
    return (
      <p className="p-6 text-lg">
        This song is not there any more.{' '}
        <Link to="/setlist" className="underline">
          To the setlist
        </Link>
      </p>
    );
  return <SongSheet key={song.id} song={song} />;
}

function SongSheet({ song }: { song: Song }) {
  const sheet = useSongSheet(song);
  const { patch, blend, layer, columns, column, row, change, choose, recall, actions } = sheet;
  const numberOf = useNumbers();
  const live = useApp(({ live: running }) => running.place);
  const [size, setSize] = useState(SIZES[0]);
  const plays = live.songId === song.id;
  const onKeyDown = useSheetKeys(song, columns, column, row, actions);
  return (
    <div className="flex min-h-full flex-col px-4 pb-4">
      <AudioInputs />
      <div className="flex flex-wrap items-end gap-x-4 py-3">
        <SheetHeader song={song} onChange={change} />
        <span className="ml-auto flex items-center gap-2 whitespace-nowrap">
          <PlayLooked />
          <Button onClick={actions.addPatch}>Add patch</Button>
          <Button disabled={!patch} onClick={actions.addLayer}>
            Add layer
          </Button>
          <Button disabled={!patch} onClick={actions.captureBlend}>
            Capture blend
          </Button>
        </span>
      </div>
      <ScoreGrid
        song={song}
        patchId={patch?.id ?? null}
        blendId={blend?.id ?? null}
        layerId={layer?.id ?? null}
        livePatchId={plays ? live.patchId : null}
        liveBlendId={plays ? live.blendId : null}
        numberOf={numberOf}
        lowest={size.lowest}
        highest={size.highest}
        onChoose={useLatest(choose)}
        onRecall={useLatest(recall)}
        onChange={useLatest(change)}
        onKeyDown={useLatest(onKeyDown)}
      />
      <Elsewhere song={song} looked={patch} blend={blend} onLook={choose} onRecall={recall} />
      {patch ? (
        <div className="mt-3 flex min-h-0 flex-1 gap-5">
          <ZonesSection song={song} patch={patch} sheet={sheet} size={size} onSize={setSize} />
          <section aria-label="signal line" className="min-w-72 flex-[2] border-l border-rule pl-5">
            <LayerSection song={song} patch={patch} sheet={sheet} />
          </section>
        </div>
      ) : (
        <p className="py-6 text-lg text-ink2">
          This song has no patches yet.{' '}
          <Button look="plain" onClick={actions.addPatch}>
            Add the first one
          </Button>
        </p>
      )}
    </div>
  );
}

/** At home looking may play; on stage never. */
function PlayLooked() {
  const act = useAct();
  const { playLooked, locked } = useApp(({ ui }) => ui);
  return (
    <Toggle
      on={playLooked && !locked}
      name="play what I look at"
      disabled={locked}
      title={locked ? 'not while the stage is locked' : 'a patch that is looked at here is recalled'}
      onClick={() => act(toggled('playLooked'))}
    />
  );
}

/** The chosen layer: its signal line, or that it is silent here. */
function LayerSection({ song, patch, sheet }: { song: Song; patch: Patch; sheet: ReturnType<typeof useSongSheet> }) {
  const middleC = useSetlist()?.middleC ?? 'C4';
  const { layer, part, blend, isStanding, change, setPart, setBalance } = sheet;
  if (!layer) return <p className="text-ink2">No layer chosen.</p>;
  if (!part)
    return (
      <p className="text-ink2">
        <b className="text-ink">{layer.name}</b> is silent in {patch.name}.{' '}
        <Button
          look="plain"
          onClick={() => change(`let ${layer.name} play in ${patch.name}`, withPart(song, patch.id, layer.id))}
        >
          let it play
        </Button>
      </p>
    );
  return (
    <SignalLine
      key={`${patch.id} ${layer.id} ${blend?.id ?? ''}`}
      song={song}
      layer={layer}
      part={part}
      blend={blend}
      middleC={middleC}
      patchId={patch.id}
      stands={isStanding(layer.id)}
      setSong={change}
      setPart={(label, apply, mergeKey) => setPart(layer.id, label, apply, mergeKey)}
      setBalance={(label, values, mergeKey) => setBalance(layer.id, label, values, mergeKey)}
    />
  );
}
