/** By this property of the page, what stands at its lower edge says how high it is, in CSS pixels: a chat's button stands above it. */
export const TAKEN = '--iwashi-taken';

/** Says how much of the page's lower edge is taken, for as long as it is. @returns ends that */
function takeEdge(frame: HTMLElement): () => void {
  const { style } = document.documentElement;
  const tell = () =>
    style.setProperty(TAKEN, `${frame.offsetHeight + (parseFloat(getComputedStyle(frame).bottom) || 0)}px`);
  const resized = new ResizeObserver(tell);
  resized.observe(frame);
  tell();
  return () => {
    resized.disconnect();
    style.removeProperty(TAKEN);
  };
}

/**
 * Puts a form's frame over the page, along its edge or in its corner, and lets it be closed: by its button, by Escape, and by a
 * click beside it. The focus goes back to where it was.
 * @param frame as it stands in its host
 */
export function showFrame(host: HTMLElement, frame: HTMLElement, onClose: () => void): void {
  const before = document.activeElement;
  const leaveEdge = frame.matches('.bottom') ? takeEdge(frame) : null;
  const close = () => {
    if (!host.isConnected) return;
    leaveEdge?.();
    host.remove();
    onClose();
    if (before instanceof HTMLElement) before.focus();
  };
  frame.querySelector('.close')?.addEventListener('click', close);
  if (!(frame instanceof HTMLDialogElement)) {
    frame.addEventListener('keydown', ({ key }) => {
      if (key === 'Escape') close();
    });
    return;
  }
  frame.addEventListener('close', close);
  frame.addEventListener('click', (event) => {
    if (event.target === frame && isOutside(event, frame)) close();
  });
  frame.showModal();
}

function isOutside({ clientX, clientY }: MouseEvent, element: Element): boolean {
  const { left, right, top, bottom } = element.getBoundingClientRect();
  return clientX < left || clientX > right || clientY < top || clientY > bottom;
}
