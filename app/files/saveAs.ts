import { legalName } from '@ordle/core';

/** Hands bytes to the browser as a download. */
export function saveAs(name: string, bytes: Uint8Array, type: string): void {
  saveBlob(name, new Blob([bytes.slice()], { type }));
}

/** The same with what the browser keeps already; its name is made one that every system takes. */
export function saveBlob(name: string, content: Blob): void {
  const url = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = url;
  const dot = name.lastIndexOf('.');
  link.download = dot > 0 ? `${legalName(name.slice(0, dot))}${name.slice(dot)}` : legalName(name);
  link.click();
  // The browser has taken hold of the data by the next turn; the address may go then.
  setTimeout(() => URL.revokeObjectURL(url), 10000);
}
