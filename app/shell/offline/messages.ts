/** Asks the service worker that waits to take the place of the one in force. */
export const TAKE_OVER = 'ordle-take-over';
