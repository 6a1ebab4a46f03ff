export { dbOf, integratedLufs, momentaryLufs, truePeakDb, type Stereo } from './loudness';
