export { soundcheck, type Finding } from './soundcheck';
