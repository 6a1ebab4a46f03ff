export { EffectSeries } from './EffectSeries';
export { SetlistEffects } from './SetlistEffects';
