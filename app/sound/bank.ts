import { OrdleError } from '@ordle/core';

const BANK_URL = '/sounds/general-midi.sf2';

/** The bytes of the instruments that ship with the app (SF2). Throws OrdleError `bank-missing`. */
export async function loadBank(): Promise<ArrayBuffer> {
  const answer = await fetch(BANK_URL).catch(() => null);
  if (!answer?.ok)
    throw new OrdleError(
      'bank-missing',
      'The instrument sounds could not be loaded. Reload the page; if that does not help, build the app again.',
    );
  return answer.arrayBuffer();
}
