import { toast } from 'sonner';
import { mended, withMeant, withoutMeant } from '@rackle/core/show';
import type { Finding, Mend } from '@rackle/core/soundcheck';
import { useApp, useEdit, useSetlist } from '../../state/hooks';

/** What can be done about a finding, each as one edit. */
export function useMending(): {
  mend: (mend: Mend) => void;
  meanSo: (finding: Finding, note: string) => void;
  takeBack: (finding: Finding) => void;
} {
  const edit = useEdit();
  const setlist = useSetlist();
  const bodies = useApp(({ show }) => show.working);
  return {
    mend({ label, steps }) {
      const draft = mended(bodies, steps);
      if (draft === null) toast('It is no longer as it was found. It is being looked over again.');
      else edit({ ...draft, label });
    },
    meanSo(finding, note) {
      if (setlist) edit({ label: 'say that a finding is meant so', setlists: [withMeant(setlist, finding, note)] });
    },
    takeBack(finding) {
      if (setlist) edit({ label: 'take back that a finding is meant so', setlists: [withoutMeant(setlist, finding)] });
    },
  };
}
