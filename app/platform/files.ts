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
