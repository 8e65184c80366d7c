/** The width up to which a screen is a phone's. */
export const phoneWidth = '(max-width: 760px)';

/** Whether this is a device of the floor: as narrow as a phone, or the application was installed on it. What is done on it may wait for a connection. */
export const isFloorDevice = (): boolean =>
  typeof window !== 'undefined' &&
  typeof window.matchMedia === 'function' &&
  typeof indexedDB !== 'undefined' &&
  (window.matchMedia(phoneWidth).matches || window.matchMedia('(display-mode: standalone)').matches);
