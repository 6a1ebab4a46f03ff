import type { Rule } from '../rule';
import { controlChannel } from './reach/controlChannel';
import { controlTwice } from './reach/controlTwice';
import { counterReference } from './reach/counterReference';
import { latching } from './reach/latching';
import { noButton } from './reach/noButton';
import { noKeyboard } from './reach/noKeyboard';
import { noNumber } from './reach/noNumber';
import { noStep } from './reach/noStep';
import { notRepeating } from './reach/notRepeating';
import { numberLeadsNowhere } from './reach/numberLeadsNowhere';
import { numberTwice } from './reach/numberTwice';
import { numberUnreachable } from './reach/numberUnreachable';
import { offByOne } from './reach/offByOne';
import { opposite } from './reach/opposite';
import { ownEcho } from './reach/ownEcho';
import { permission } from './reach/permission';
import { pointsNowhere, setlistPointsNowhere } from './reach/pointsNowhere';
import { portNames, setlistPortNames } from './reach/portNames';
import { sysexRefused } from './reach/sysexRefused';
import { roleIdle } from './reach/roleIdle';
import { roleOpen } from './reach/roleOpen';
import { songWithoutStep } from './reach/songWithoutStep';
import { bankNotSent } from './sound/bankNotSent';
import { bendRanges } from './sound/bendRanges';
import { channelShared } from './sound/channelShared';
import { effectGone, setlistEffectGone } from './sound/effectGone';
import { leftAtNothing } from './sound/leftAtNothing';
import { liveFeedback } from './sound/liveFeedback';
import { loopOverKeys } from './sound/loopOverKeys';
import { neverSounds } from './sound/neverSounds';
import { noSharedEffect } from './sound/noSharedEffect';
import { outOfRange } from './sound/outOfRange';
import { silentKeys } from './sound/silentKeys';
import { silentPatch } from './sound/silentPatch';
import { soundMissing, standingSoundMissing } from './sound/soundMissing';
import { standingCovers } from './sound/standingCovers';
import { sustainHalf } from './sound/sustainHalf';
import { switchKey } from './sound/switchKey';
import { cableFull } from './time/cableFull';
import { cueIdle } from './time/cueIdle';
import { endless } from './time/endless';
import { positionTooFar } from './time/positionTooFar';
import { switchedLate } from './time/switchedLate';
import { switchUnmeasured } from './time/switchUnmeasured';
import { tooManyVoices } from './time/tooManyVoices';

/** Every rule, in the order in which a player would go through them. */
export const RULES: readonly Rule[] = [
  pointsNowhere,
  setlistPointsNowhere,
  portNames,
  setlistPortNames,
  noKeyboard,
  permission,
  sysexRefused,
  numberTwice,
  numberUnreachable,
  numberLeadsNowhere,
  noButton,
  offByOne,
  noStep,
  songWithoutStep,
  controlTwice,
  controlChannel,
  counterReference,
  latching,
  notRepeating,
  opposite,
  ownEcho,
  roleOpen,
  roleIdle,
  noNumber,
  soundMissing,
  standingSoundMissing,
  neverSounds,
  silentPatch,
  silentKeys,
  channelShared,
  bankNotSent,
  standingCovers,
  switchKey,
  loopOverKeys,
  sustainHalf,
  liveFeedback,
  noSharedEffect,
  effectGone,
  setlistEffectGone,
  leftAtNothing,
  outOfRange,
  bendRanges,
  cueIdle,
  switchedLate,
  tooManyVoices,
  endless,
  cableFull,
  positionTooFar,
  switchUnmeasured,
];

/** Rules that need no gear list. */
export const WITHOUT_GEAR: ReadonlySet<string> = new Set([
  pointsNowhere.id,
  setlistPointsNowhere.id,
  numberTwice.id,
  soundMissing.id,
  standingSoundMissing.id,
  noSharedEffect.id,
  effectGone.id,
  setlistEffectGone.id,
]);
