import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { useFocusBack } from './useFocusBack';

/** A sheet of paper laid over the page; Escape puts it away. */
export function Sheet({
  open,
  title,
  about,
  asks = false,
  wide = false,
  onClose,
  children,
}: {
  open: boolean;
  title: string;
  about?: string;
  /** It asks something: the key that opened it must not answer it, so no answer has the focus at first. */
  asks?: boolean;
  /** For a table. */
  wide?: boolean;
  onClose: () => void;
  children: ReactNode;
}) {
  const focusBack = useFocusBack();
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(now) => {
        if (!now) onClose();
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          tabIndex={-1}
          onCloseAutoFocus={focusBack.onCloseAutoFocus}
          onOpenAutoFocus={(event) => {
            focusBack.onOpenAutoFocus();
            if (!asks) return;
            event.preventDefault();
            (event.currentTarget as HTMLElement).focus();
          }}
          className={`slip-in fixed left-1/2 top-[6vh] z-50 max-h-[88vh] ${wide ? 'w-[min(960px,94vw)]' : 'w-[min(640px,94vw)]'} -translate-x-1/2 overflow-y-auto border border-ink bg-ground p-5 text-ink focus:outline-none`}
        >
          <Dialog.Title className="named text-2xl">{title}</Dialog.Title>
          {about && <p className="mt-1 text-ink2">{about}</p>}
          <div className="mt-3">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
