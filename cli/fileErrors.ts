import { sentenceOf } from '@ordle/core';

/** What the operating system's codes mean to a person. */
const REASONS: Readonly<Record<string, string>> = {
  ENOENT: 'there is no such file',
  EACCES: 'it may not be read or written by this person',
  EPERM: 'it may not be read or written by this person',
  EISDIR: 'it is a folder, not a file',
  ENOTDIR: 'a part of its path is a file, not a folder',
  EEXIST: 'a file of that name is already there',
  ENOSPC: 'the disk is full',
  EDQUOT: 'the disk is full, or the share of it this person may use',
  EFBIG: 'it is larger than the disk can hold in one file',
  EROFS: 'the disk can only be read',
  EMFILE: 'too many files are open',
  ENFILE: 'too many files are open',
  ENAMETOOLONG: 'its name is too long',
  ELOOP: 'its links lead in a circle',
  EBUSY: 'another program is using it',
  EIO: 'the disk failed',
  ENXIO: 'it is a pipe or a device, not a file',
  ERR_FS_FILE_TOO_LARGE: 'it is larger than 2 GB',
};

/** Why a file or folder could not be read or written, in words; the code's own words where it is an unusual one. */
export function reasonOf(error: unknown): string {
  const code = typeof error === 'object' && error !== null && 'code' in error ? String(error.code) : '';
  return REASONS[code] ?? (code !== '' && error instanceof Error ? error.message : sentenceOf(error));
}
