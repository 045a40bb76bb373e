import type { Checked } from '@core';

/** Hands a file over to the browser's downloads. */
export function downloadText(name: string, text: string, type: string): void {
  download(name, new Blob([text], { type }));
}

/** Hands any file over to the browser's downloads. */
export function download(name: string, content: Blob): void {
  const url = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  document.body.append(link);
  link.click();
  link.remove();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** Asks for one file; null where none was chosen. */
export async function chooseFile(accept: string): Promise<File | null> {
  return (await chooseFiles(accept, false))[0] ?? null;
}

/** Lets the person choose any number of files; none where they think better of it. */
export function chooseFiles(accept: string, multiple = true): Promise<readonly File[]> {
  return new Promise((resolve) => {
    const input = document.createElement('input');
    input.type = 'file';
    input.accept = accept;
    input.multiple = multiple;
    input.hidden = true;
    document.body.append(input);
    input.addEventListener('change', () => {
      resolve([...(input.files ?? [])]);
      input.remove();
    });
    input.addEventListener('cancel', () => {
      resolve([]);
      input.remove();
    });
    input.click();
  });
}

/** A drawing's name as a file name. */
export function fileName(name: string, ending: string): string {
  const safe = name
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .toLowerCase();
  return `${safe || 'drawing'}.${ending}`;
}

/** What cannot be read any more is told in the same way by every browser: it was moved, changed or is no file. */
const unreadable: Checked<never> = {
  ok: false,
  problems: [
    { code: 'unreadable', path: '', message: 'The file cannot be read. It may have been moved, changed or deleted since it was chosen, or be a folder.' },
  ],
};

/** The bytes of a file, or why there are none: the one way in which files from outside are read. */
export async function bytesOfFile(file: Blob): Promise<Checked<Uint8Array<ArrayBuffer>>> {
  try {
    return { ok: true, value: new Uint8Array(await file.arrayBuffer()), notes: [] };
  } catch {
    return unreadable;
  }
}

/** The text of a file, or why there is none. */
export async function textOfFile(file: Blob): Promise<Checked<string>> {
  const bytes = await bytesOfFile(file);
  return bytes.ok ? { ok: true, value: new TextDecoder().decode(bytes.value), notes: [] } : bytes;
}

/** The bytes of a file. @throws Error in words for people where it cannot be read */
export async function requiredBytes(file: Blob): Promise<Uint8Array<ArrayBuffer>> {
  const bytes = await bytesOfFile(file);
  if (!bytes.ok) throw new Error(bytes.problems[0]!.message);
  return bytes.value;
}
