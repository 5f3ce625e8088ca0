/** Asks for one file, by the browser's own dialog; nothing comes where none is chosen. */
export function pickFile(accept: string, take: (file: File) => void): void {
  const picker = document.createElement('input');
  picker.type = 'file';
  picker.accept = accept;
  picker.addEventListener('change', () => {
    const file = picker.files?.[0];
    if (file) take(file);
  });
  picker.click();
}
