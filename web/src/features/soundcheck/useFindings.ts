import type { Finding } from '@rackle/core/soundcheck';
import { useApp } from '../../state/hooks';

/** What is wrong with the present setlist, as it was a moment ago. */
export const useFindings = (): Finding[] => useApp(({ checks }) => checks.findings);
