import { PARAMETERS, actionInWords, type ActionNames } from '@rackle/core/controls';
import { EFFECT_PARAMETERS, PlainAction, type Action, type Effect, type Layer } from '@rackle/core/show';
import { Choice, type ChoiceGroup } from '../../ui/Choice';
import { namesIn } from './actionNames';

const PLAIN: readonly PlainAction[] = [
  'nextStep',
  'previousStep',
  'firstStep',
  'nextSong',
  'previousSong',
  'firstSong',
  'cursorNext',
  'cursorPrevious',
  'go',
  'hold',
  'tapTempo',
  'transposeUp',
  'transposeDown',
  'transposeOff',
  'play',
  'stop',
  'toStart',
  'holdCues',
  'resend',
  'panic',
];
const MOST_DIRECT = 8;

interface Props {
  /** null: nothing yet. */
  value: Action | null;
  layers: readonly Layer[];
  /** Of the setlist: those of shared series, and those on the whole output. */
  setlistEffects: readonly Effect[];
  onChange: (action: Action) => void;
}

const group = (name: string, actions: Action[], names: ActionNames): ChoiceGroup => ({
  name,
  items: actions.map((action) => ({ value: JSON.stringify(action), label: actionInWords(action, names) })),
});

/** What a role does, out of everything that it could do there. Layers are those of its scope. */
export function ActionChoice({ value, layers, setlistEffects, onChange }: Props) {
  const nameOf = namesIn(layers, setlistEffects);
  const groups = [
    group(
      'moving on',
      PLAIN.map((kind) => ({ kind })),
      nameOf,
    ),
    group(
      'straight there',
      [
        ...Array.from({ length: MOST_DIRECT }, (_, i): Action => ({ kind: 'patch', number: i + 1 })),
        ...Array.from({ length: 5 }, (_, i): Action => ({ kind: 'blend', number: i })),
        ...Array.from({ length: 12 }, (_, i): Action => ({ kind: 'song', number: i + 1 })),
      ],
      nameOf,
    ),
    group(
      'everything',
      [
        ...(['levelDb', 'roomDb', 'echoDb', 'echoRepeats'] as const).map((wholeValue): Action => ({
          kind: 'wholeValue',
          value: wholeValue,
        })),
        { kind: 'effectSwitch', effect: 'room' },
        { kind: 'effectSwitch', effect: 'echo' },
        ...setlistEffects.flatMap(({ id, kind }): Action[] => [
          { kind: 'sharedEffectOnOff', effectId: id },
          ...EFFECT_PARAMETERS[kind].map(({ name }): Action => ({
            kind: 'sharedEffectValue',
            effectId: id,
            parameter: name,
          })),
        ]),
      ],
      nameOf,
    ),
    ...layers.map((layer) =>
      group(
        layer.name,
        [
          ...(['levelDb', 'pan', 'room', 'echo'] as const).map((layerValue): Action => ({
            kind: 'layerValue',
            layerId: layer.id,
            value: layerValue,
          })),
          { kind: 'layerSwitch', layerId: layer.id, what: 'mute' },
          { kind: 'layerSwitch', layerId: layer.id, what: 'solo' },
          { kind: 'presetStep', layerId: layer.id, by: 1 },
          { kind: 'presetStep', layerId: layer.id, by: -1 },
          { kind: 'trigger', layerId: layer.id, key: 60 },
          ...PARAMETERS.map(({ controller }): Action => ({ kind: 'layerController', layerId: layer.id, controller })),
          ...layer.effects.flatMap(({ id, kind }): Action[] => [
            { kind: 'effectOnOff', layerId: layer.id, effectId: id },
            ...EFFECT_PARAMETERS[kind].map(({ name }): Action => ({
              kind: 'effectValue',
              layerId: layer.id,
              effectId: id,
              parameter: name,
            })),
          ]),
        ],
        nameOf,
      ),
    ),
  ];
  const present = value === null ? '' : JSON.stringify(value);
  const known = groups.some(({ items }) => items.some((item) => item.value === present));
  return (
    <Choice
      label="what it does"
      value={present}
      groups={known || value === null ? groups : [group('now', [value], nameOf), ...groups]}
      onChange={(text) => onChange(JSON.parse(text) as Action)}
    />
  );
}
