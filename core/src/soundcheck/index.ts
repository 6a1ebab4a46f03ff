export { soundcheck, type Finding } from './soundcheck';
export { checkedIn } from './ways';
