import { endsTyping, isClosedList, isPressed, isTextField, isWritten, takesArrows } from './key-rules';

const made = (markup: string, pick = '[data-it]'): HTMLElement => {
  document.body.innerHTML = markup.replace(/>/, ' data-it>');
  return document.querySelector<HTMLElement>(pick)!;
};

describe('where keys go', () => {
  it('is to fields in which text is typed, and to nothing else', () => {
    const text = [
      '<input>',
      '<input type="text">',
      '<input type="search">',
      '<textarea></textarea>',
      '<select></select>',
      '<div role="combobox" aria-expanded="true">x</div>',
      '<div contenteditable>x</div>',
    ];
    const none = ['<input type="checkbox">', '<input type="radio">', '<input type="range">', '<input type="color">', '<input type="file">', '<button>x</button>', '<div role="switch">x</div>', '<span role="combobox" aria-expanded="false">x</span>', '<span role="combobox">x</span>', '<a href="#">x</a>']; // prettier-ignore
    for (const markup of text) expect([markup, isTextField(made(markup))]).toEqual([markup, true]);
    for (const markup of none) expect([markup, isTextField(made(markup))]).toEqual([markup, false]);
    expect(isTextField(document)).toBe(false);
  });

  it('is the drawing for what is written while a list is closed, and the list for the rest', () => {
    const closed = made('<span role="combobox" aria-expanded="false">x</span>');
    expect([isClosedList(closed), takesArrows(closed), isPressed(closed)]).toEqual([true, true, true]);
    expect(isClosedList(made('<span role="combobox" aria-expanded="true">x</span>'))).toBe(false);
    expect(isClosedList(made('<input role="combobox" aria-expanded="false">'))).toBe(false);
    const key = (key: string, with_: Partial<KeyboardEvent> = {}): boolean => isWritten({ key, ctrlKey: false, metaKey: false, altKey: false, ...with_ });
    expect(['g', '2', '('].map((one) => key(one))).toEqual([true, true, true]);
    expect(['Enter', ' ', 'ArrowDown', 'Escape', 'Tab'].map((one) => key(one))).toEqual([false, false, false, false, false]);
    expect([key('z', { ctrlKey: true }), key('g', { altKey: true })]).toEqual([false, false]);
  });

  it('gives Enter and Escape in a field back to the drawing, but not where the field keeps them', () => {
    const ends = (markup: string, key: string, pick?: string): boolean => endsTyping({ key, target: made(markup, pick) });
    expect([ends('<input>', 'Enter'), ends('<input>', 'Escape'), ends('<input>', 'a')]).toEqual([true, true, false]);
    expect(ends('<input data-keeps-focus>', 'Enter')).toBe(false);
    expect(ends('<textarea></textarea>', 'Enter')).toBe(false);
    expect(ends('<div role="dialog"><input></div>', 'Enter', 'input')).toBe(false);
    expect(ends('<input type="checkbox">', 'Enter')).toBe(false);
  });

  it('leaves arrows and Enter to controls that use them', () => {
    expect(takesArrows(made('<input type="range">'))).toBe(true);
    expect(takesArrows(made('<div role="tree"><i>x</i></div>', 'i'))).toBe(true);
    expect(takesArrows(made('<button>x</button>'))).toBe(false);
    expect([isPressed(made('<button>x</button>')), isPressed(made('<p>x</p>'))]).toEqual([true, false]);
  });
});
