import { useEffect, useRef, type ReactNode } from 'react';

/** A modal dialog on the platform's own element: focus stays inside, Escape closes, focus returns. */
export function Dialog({
  title,
  open,
  onClose,
  wide = false,
  children,
}: {
  title: string;
  open: boolean;
  onClose: () => void;
  /** For tables. */
  wide?: boolean;
  children: ReactNode;
}) {
  const element = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    if (open && !element.current?.open) element.current?.showModal();
    if (!open) element.current?.close();
  }, [open]);
  return (
    <dialog ref={element} className="modal" onClose={onClose} aria-label={title}>
      {open && (
        <div className={`modal-box border border-base-300 shadow-none ${wide ? 'max-w-3xl' : ''}`}>
          <h2 className="text-lg font-semibold mb-3">{title}</h2>
          {children}
        </div>
      )}
    </dialog>
  );
}
