import { webcrypto } from 'node:crypto';
import { TestBed } from '@angular/core/testing';
import { openDrawing, pxOf } from '../testing/page';
import { ToolRunnerService } from './tool-runner.service';
import { TypingComponent } from './typing.component';

const FLOOR = { kind: 'floor', offset: 0 } as const;

describe('typed lengths', () => {
  async function typing(): Promise<{ host: HTMLElement; tools: ToolRunnerService; fields: HTMLInputElement[]; submit: () => Promise<void> }> {
    Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
    TestBed.resetTestingModule();
    const { view } = openDrawing();
    const tools = TestBed.inject(ToolRunnerService);
    view.setTool('rectangle');
    TestBed.tick();
    tools.point('down', pxOf(FLOOR, 0, 0), { lock: false, free: false });
    tools.point('move', pxOf(FLOOR, 2, 2), { lock: false, free: false });
    tools.typing.set('4');
    const fixture = TestBed.createComponent(TypingComponent);
    fixture.componentRef.setInput('at', { x: 100, y: 100 });
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const submit = async (): Promise<void> => {
      host.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
      await fixture.whenStable();
    };
    return { host, tools, fields: Array.from(host.querySelectorAll('input')), submit };
  }

  it('begin with the digit that opened them, a field for each side', async () => {
    const { host, fields } = await typing();
    expect(Array.from(host.querySelectorAll('label span'), (s) => s.textContent)).toEqual(['along a', 'along b']);
    expect(fields.map((f) => f.value)).toEqual(['4', '']);
    expect(host.querySelector('form')!.style.transform).toBe('translate(114px, 14px)');
  });

  it('are taken together, or say what is wrong and stay', async () => {
    const { host, tools, fields, submit } = await typing();
    fields[1]!.value = '3 *';
    await submit();
    expect(host.querySelector('[role=alert]')!.textContent).toMatch(/not a sum/);
    fields[1]!.value = '3';
    await submit();
    expect([tools.typing(), tools.busy()]).toEqual([null, false]);
  });

  it('keep Tab among themselves, either way, and what is typed next takes the place of what was there', async () => {
    const { host, fields } = await typing();
    document.body.append(host);
    const tab = (shiftKey = false): boolean => document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Tab', shiftKey, cancelable: true, bubbles: true })); // prettier-ignore
    fields[0]!.focus();
    const went: (number | boolean)[] = [];
    for (const shift of [false, false, true, false]) went.push(tab(shift), fields.indexOf(document.activeElement as HTMLInputElement));
    expect(went).toEqual([false, 1, false, 0, false, 1, false, 0]);
    expect([fields[0]!.selectionStart, fields[0]!.selectionEnd]).toEqual([0, 1]);
    host.remove();
  });

  it('are put away by Escape while the drawing goes on', async () => {
    const { tools, fields } = await typing();
    fields[0]!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', cancelable: true }));
    expect([tools.typing(), tools.busy()]).toEqual([null, true]);
  });
});
