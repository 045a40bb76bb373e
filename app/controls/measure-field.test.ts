import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MeasureFieldComponent } from './measure-field.component';

describe('a measure field', () => {
  let fixture: ComponentFixture<MeasureFieldComponent>;
  let field: HTMLInputElement;
  let taken: number[];

  beforeEach(async () => {
    fixture = TestBed.createComponent(MeasureFieldComponent);
    fixture.componentRef.setInput('label', 'Depth');
    fixture.componentRef.setInput('value', 4);
    fixture.componentRef.setInput('cell', 8);
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
