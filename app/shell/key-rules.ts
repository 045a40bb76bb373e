/**
 * Where keys go, one rule for the whole window:
 * - a field in which text is typed has every key but the platform's own that mean the drawing;
 * - Enter takes what was typed and Escape puts back what was there, and both give the keys back to the drawing;
 * - any other control (button, check box, switch, radio, slider, list that is closed) has Enter, Space and the arrow keys,
 *   and lets every single key through to the drawing;
 * - a list that is open has every key, letters look in it;
 * - a window over the drawing has all keys.
 */

/** Kinds of input in which no text is typed. */
const NO_TEXT = ['range', 'checkbox', 'radio', 'color', 'button', 'submit', 'reset', 'file'];

const TEXT = `input${NO_TEXT.map((type) => `:not([type=${type}])`).join('')}, textarea, select, [role=combobox][aria-expanded=true], [contenteditable]`;

/** Whether text is typed into what an event came to. */
export function isTextField(target: EventTarget | null): target is HTMLElement {
  return target instanceof HTMLElement && target.matches(TEXT);
}

/** Whether an event came to a list to choose from that is closed, and in which nothing can be typed. */
export function isClosedList(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.matches('[role=combobox]:not(input):not([aria-expanded=true])');
}

/** Whether a key is one that is written, by itself: the library's lists open at it, where the drawing is meant. */
export function isWritten({ key, ctrlKey, metaKey, altKey }: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey'>): boolean {
  return key.length === 1 && key !== ' ' && !ctrlKey && !metaKey && !altKey;
}

/** Whether the arrow keys belong to what an event came to, or to what holds it. */
export function takesArrows(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    target.closest('[role=slider], [role=tree], [role=radiogroup], [role=listbox], [role=combobox], [role=menu], input') !== null
  );
}

/** Whether Enter and Space press what an event came to. */
export function isPressed(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    target.matches('button, a, summary, input, [role=combobox], [role=option], [role=slider], [role=switch], [role=treeitem], [role=menuitem]')
  );
}

/**
 * Whether a key ends the typing in a field, so that the keys go back to the drawing: not in fields that keep the focus
 * for themselves, such as a name in the contents, and not where Enter makes a new line or chooses from a list.
 */
export function endsTyping(event: Pick<KeyboardEvent, 'key' | 'target'>): boolean {
  if (event.key !== 'Enter' && event.key !== 'Escape') return false;
  if (!isTextField(event.target)) return false;
  return !event.target.closest('textarea, select, [role=combobox], [data-keeps-focus], chemin-typing, [role=dialog]');
}

/** Gives the keys to the drawing. */
export function focusDrawing(): void {
  document.querySelector<HTMLElement>('[role=application]')?.focus({ preventScroll: true });
}
