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

/** Endings of what can be brought in. */
const MUSIC = '.mid,.midi,.smf,.kar,.rmi,.ordle,.musicxml,.mxl,.xml,audio/midi,audio/x-midi';

/** Asks for any number of files of music. */
export const pickFiles = (take: (files: File[]) => void): void => pickMany({ accept: MUSIC }, take);

/** Asks for a folder: all files in it and below, each with its way there. */
export const pickFolder = (take: (files: File[]) => void): void => pickMany({ isFolder: true }, take);

function pickMany({ accept = '', isFolder = false }, take: (files: File[]) => void) {
  const picker = document.createElement('input');
  picker.type = 'file';
  picker.multiple = true;
  picker.accept = accept;
  picker.webkitdirectory = isFolder;
  picker.addEventListener('change', () => {
    const files = [...(picker.files ?? [])];
    if (files.length > 0) take(files);
  });
  picker.click();
}
