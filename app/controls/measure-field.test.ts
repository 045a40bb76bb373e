import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { emptyDocument, startHistory } from '@core';
import { DocumentStore } from '../state/document.store';
import { MessageStore } from '../platform/messages.store';
import { MeasureFieldComponent } from './measure-field.component';

describe('a measure field', () => {
  let fixture: ComponentFixture<MeasureFieldComponent>;
  let field: HTMLInputElement;
  let taken: number[];

  beforeEach(async () => {
    fixture = TestBed.createComponent(MeasureFieldComponent);
    fixture.componentRef.setInput('label', 'Depth');
    fixture.componentRef.setInput('value', 4);
    fixture.componentRef.setInput('in', 'cells');
    taken = [];
    fixture.componentInstance.taken.subscribe((value) => taken.push(value));
    await fixture.whenStable();
    field = (fixture.nativeElement as HTMLElement).querySelector('input')!;
  });

  async function type(text: string, key = 'Enter'): Promise<void> {
    field.value = text;
    field.dispatchEvent(new Event('input'));
    field.dispatchEvent(new KeyboardEvent('keydown', { key }));
    await fixture.whenStable();
  }

  it('takes sums in cells and lengths in millimetres', async () => {
    await type('(18-3*2)/2');
    await type('40 mm');
    expect(taken).toEqual([6, 5]);
  });

  it('shows and reads a length in the unit in which it was typed', async () => {
    const units: string[] = [];
    fixture.componentInstance.unitTyped.subscribe((unit) => units.push(unit));
    await type('24 pt');
    expect([taken.at(-1), units]).toEqual([expect.closeTo((24 * 25.4) / 72 / 8, 9), ['pt']]);
    fixture.componentRef.setInput('value', taken.at(-1));
    fixture.componentRef.setInput('as', 'pt');
    await fixture.whenStable();
    expect([field.value, (fixture.nativeElement as HTMLElement).querySelector('.unit')!.textContent]).toEqual(['24', 'pt']);
    await type('36');
    expect(taken.at(-1)).toBeCloseTo((36 * 25.4) / 72 / 8, 9);
    await type('2 cells');
    expect(taken.at(-1)).toBe(2);
    fixture.componentRef.setInput('in', 'mm');
    fixture.componentRef.setInput('value', 25.4 / 72);
    await fixture.whenStable();
    expect(field.value).toBe('1');
    // The same width in another unit is taken too, so that the unit is kept.
    await type('0.352777777777777777 mm');
    expect(units.at(-1)).toBe('mm');
  });

  it('offers where it was typed what can be had in place of what was refused', async () => {
    const [store, messages] = [TestBed.inject(DocumentStore), TestBed.inject(MessageStore)];
    let used = 0;
    fixture.componentInstance.taken.subscribe(() => {
      const offer = { label: 'Use 3', run: () => void used++ };
      store.refuse('Nothing is that deep.', messages.say('warn', 'Not possible here', ['Nothing is that deep.'], offer), offer);
    });
    await type('9');
    const page = fixture.nativeElement as HTMLElement;
    expect([page.querySelector('.fault')!.textContent, messages.messages()]).toEqual(['Nothing is that deep.', []]);
    page.querySelector<HTMLButtonElement>('.offer')!.click();
    await fixture.whenStable();
    expect([used, page.querySelector('.fault'), page.querySelector('.offer')]).toEqual([1, null, null]);
  });

  it('tells the unit that was typed, and takes lengths at the sheet’s resolution and drawing scale', async () => {
    const store = TestBed.inject(DocumentStore);
    const empty = emptyDocument('d', 'd');
    store.load(startHistory({ ...empty, grid: { ...empty.grid, cell: 10 }, sheet: { ...empty.sheet, scale: 20, resolution: 254 } }));
    const units: string[] = [];
    fixture.componentInstance.unitTyped.subscribe((unit) => units.push(unit));
    await type('2.4 m');
    await type('100 px');
    expect(taken).toEqual([12, 1]);
    fixture.componentRef.setInput('in', 'mm');
    await type('100 px');
    await type('3');
    expect([taken.slice(2), units]).toEqual([
      [10, 3],
      ['px', 'px'],
    ]);
  });

  it('shows why a change was refused where it was typed, and keeps what was typed', async () => {
    const store = TestBed.inject(DocumentStore);
    store.load(startHistory(emptyDocument('d', 'd')));
    fixture.componentInstance.taken.subscribe(() => store.commit({ kind: 'title', name: 'n'.repeat(201) }));
    await type('6');
    const host = fixture.nativeElement as HTMLElement;
    expect(host.querySelector('[role=alert]')!.textContent).toContain('A name has at most 200 letters.');
    expect([field.value, TestBed.inject(MessageStore).messages(), store.kept().name]).toEqual(['6', [], 'd']);
  });

  it('says what is wrong beside the field and takes nothing', async () => {
    await type('4 *');
    expect(taken).toEqual([]);
    expect((fixture.nativeElement as HTMLElement).querySelector('[role=alert]')!.textContent).toContain('not a sum');
    expect(field.getAttribute('aria-invalid')).toBe('true');
  });

  it('puts the old value back on Escape and keeps to its limits', async () => {
    await type('9', 'Escape');
    expect(field.value).toBe('4');
    fixture.componentRef.setInput('least', 0);
    fixture.componentRef.setInput('most', 10);
    await type('11');
    expect((fixture.nativeElement as HTMLElement).textContent).toContain('From 0 to 10.');
    expect(taken).toEqual([]);
  });
});
