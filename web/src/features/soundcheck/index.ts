export { useFindings } from './useFindings';
