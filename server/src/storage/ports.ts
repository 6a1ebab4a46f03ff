import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** The two ports of this server: of the pages, and of the host's frame. */
export interface Ports {
  page: number;
  host: number;
}

const FILE = 'ports.json';

/** The ports that were chosen for a data folder; null: none were yet, or what stands there says nothing. */
export function readPorts(folder: string): Ports | null {
  try {
    const { page, host } = JSON.parse(readFileSync(join(folder, FILE), 'utf8')) as Ports;
    const isPort = (port: unknown): boolean => Number.isInteger(port) && Number(port) > 0 && Number(port) < 65_536;
    return isPort(page) && isPort(host) && page !== host ? { page, host } : null;
  } catch {
    return null;
  }
}

/**
 * Keeps them: what browsers store belongs to a port, so that a moved one would lose it (the last place, edits that wait,
 * banks that were loaded).
 */
export function keepPorts(folder: string, ports: Ports): void {
  const path = join(folder, FILE);
  writeFileSync(`${path}.new`, `${JSON.stringify(ports)}\n`);
  renameSync(`${path}.new`, path);
}
