/** Frames that hold a form of ours become as high as it is. @param server our origin */
export function fitFrames(server: string): void {
  addEventListener('message', ({ origin, source, data }: MessageEvent<{ iwashiHeight?: unknown } | null>) => {
    const height = data?.iwashiHeight;
    if (origin !== server || typeof height !== 'number') return;
    for (const frame of document.querySelectorAll('iframe'))
      if (frame.contentWindow === source) frame.style.height = `${Math.ceil(height)}px`;
  });
}
