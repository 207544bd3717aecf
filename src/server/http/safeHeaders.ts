/** What every page is dressed in, against framing, sniffing and leaking addresses. */
export const SAFE_HEADERS = {
  xFrameOptions: 'SAMEORIGIN',
  // With no-referrer, browsers would send "Origin: null" from our own form pages.
  referrerPolicy: 'same-origin',
  crossOriginResourcePolicy: false,
} as const;
