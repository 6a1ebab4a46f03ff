export { Simulation, startOf, type SentMessage, type SimulatedShow, type SimulationOptions } from './simulation';
