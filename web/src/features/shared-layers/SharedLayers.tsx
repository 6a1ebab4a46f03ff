import { useState, type ReactNode } from 'react';
import { patchesWith, withOwnLayer, type LayerId, type Patch } from '@rackle/core/show';
import { useAct, useApp, useEdit } from '../../state/hooks';
import { newId } from '../../state/ids';
import { changesMeantEverywhere, chose } from '../../state/uiSlice';
import { Question } from '../../ui/Question';
import { useLatest } from '../../ui/useLatest';
import { ChangeLayerContext, type LayerChange } from './changeLayer';

/**
 * Through here layers are changed. Of one that plays in other patches too it is asked, once a visit, whether the change
 * is meant in this patch only, which then gets a layer of its own, or in all.
 */
export function SharedLayers({ children }: { children: ReactNode }) {
  const act = useAct();
  const edit = useEdit();
  const everywhere = useApp(({ ui }) => ui.changedEverywhere);
  const [asked, setAsked] = useState<LayerChange | null>(null);
  const make = ({ song, layerId, label, apply, mergeKey, shelf }: LayerChange): void =>
    edit({ label, songs: [apply(song, layerId)], mergeKey, shelves: shelf ? [shelf] : [] });
  const change = useLatest((wanted: LayerChange): void => {
    if (sharers(wanted).length > 1 && !everywhere.includes(keyOf(wanted))) setAsked(wanted);
    else make(wanted);
  });
  const inAll = (wanted: LayerChange): void => {
    act(changesMeantEverywhere(keyOf(wanted)));
    make(wanted);
  };
  const hereOnly = (wanted: LayerChange): void => {
    const { song, patchId, layerId, label } = wanted;
    if (patchId === null) return;
    const own = newId<LayerId>('layer');
    make({ ...wanted, song: withOwnLayer(song, patchId, layerId, own), layerId: own, label: `${label}, here only` });
    act(chose({ songId: song.id, layerId: own }));
  };
  const answer = (give: (wanted: LayerChange) => void): void => {
    setAsked(null);
    if (asked) give(asked);
  };
  return (
    <ChangeLayerContext.Provider value={change}>
      {children}
      {asked && (
        <WhereMeant
          asked={asked}
          onHere={() => answer(hereOnly)}
          onAll={() => answer(inAll)}
          onLeave={() => setAsked(null)}
        />
      )}
    </ChangeLayerContext.Provider>
  );
}

const keyOf = ({ song, layerId }: LayerChange): string => `${song.id} ${layerId}`;

/** The patches among which the change would be shared; none where it is not asked about. */
function sharers({ song, patchId, layerId }: LayerChange): readonly Patch[] {
  if (song.standing.some((part) => part.layerId === layerId)) return [];
  const patches = patchesWith(song, layerId);
  return patches.some(({ id }) => id === patchId) ? patches : [];
}

const COUNTS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];

interface QuestionProps {
  asked: LayerChange;
  onHere: () => void;
  onAll: () => void;
  onLeave: () => void;
}

function WhereMeant({ asked, onHere, onAll, onLeave }: QuestionProps) {
  const { song, patchId, layerId, label } = asked;
  const layer = song.layers.find(({ id }) => id === layerId);
  const patches = sharers(asked);
  const here = patches.find(({ id }) => id === patchId)?.name ?? 'this patch';
  const others = patches.filter(({ id }) => id !== patchId).map(({ name }) => name);
  return (
    <Question
      title={`${layer?.name ?? 'This layer'} plays elsewhere too`}
      answers={[
        ['Here only', onHere],
        [`In ${patches.length === 2 ? 'both' : `all ${COUNTS[patches.length] ?? patches.length}`} patches`, onAll],
      ]}
      leave="leave it as it was"
      onLeave={onLeave}
    >
      <p>
        It plays in <b>{here}</b>, and also in <b>{others.join(', ')}</b>. You are about to {label}: where is it meant?
      </p>
      <p className="mt-1 text-ink2">
        Here only: {here} gets a layer of its own, and the others stay as they are. It is asked once a visit.
      </p>
    </Question>
  );
}
