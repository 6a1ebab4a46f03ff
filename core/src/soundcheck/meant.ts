import type { Meant } from '../show';
import { SEVERITIES, placesInWords, type Finding, type MeantFinding } from './finding';

/** Findings, the worst first, apart from what the player has said is meant so. */
export function withoutMeantPlaces(
  findings: readonly Finding[],
  meant: readonly Meant[],
): { findings: Finding[]; meant: MeantFinding[] } {
  const sorted = findings.map((finding) => split(finding, meant));
  const open = sorted.flatMap((one) => one.open ?? []);
  return {
    findings: SEVERITIES.flatMap((severity) => open.filter((finding) => finding.severity === severity)),
    meant: sorted.flatMap((one) => one.meant ?? []),
  };
}

/** A finding without the places at which it is meant so, and what is left of it there. */
function split(finding: Finding, meant: readonly Meant[]): { open: Finding | null; meant: MeantFinding | null } {
  const ours = meant.filter(({ rule, cause }) => rule === finding.rule && cause === finding.cause);
  if (ours.length === 0) return { open: finding, meant: null };
  const notes = new Map(ours.map(({ place, note }) => [place, note]));
  const at = (isMeant: boolean): Finding | null => {
    const places = finding.places.filter(({ words }) => notes.has(words) === isMeant);
    return places.length === 0 ? null : { ...finding, places, where: placesInWords(places) };
  };
  const silenced = at(true);
  return {
    open: at(false),
    meant: silenced && { finding: silenced, note: notes.get(silenced.places[0].words)! },
  };
}
