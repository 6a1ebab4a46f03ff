export { SharedLayers } from './SharedLayers';
export { useChangeLayer, type LayerChange } from './changeLayer';
export { AlsoIn } from './AlsoIn';
