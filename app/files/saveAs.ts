/** Hands bytes to the browser as a download. */
export function saveAs(name: string, bytes: Uint8Array, type: string): void {
  const url = URL.createObjectURL(new Blob([bytes.slice()], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The browser has taken hold of the data by the next turn; the address may go then.
  setTimeout(() => URL.revokeObjectURL(url), 10000);
}

/** A name as file systems take it, without what they keep for themselves. */
export const plainNameOf = (name: string): string => name.replace(/[\\/:*?"<>|]+/g, '-').trim() || 'session';
