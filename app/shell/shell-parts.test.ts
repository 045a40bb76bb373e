import { webcrypto } from 'node:crypto';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { Type } from '@angular/core';
import { LightBenchComponent } from '../features/light/light-bench.component';
import { boxNode, openDrawing } from '../testing/page';
import { ContentsComponent } from './contents.component';
import { GroundBarComponent } from './ground-bar.component';
import { RosetteComponent } from './rosette.component';
import { SelectionComponent } from './selection.component';
import { WayComponent } from './way.component';

beforeEach(() => {
  Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
  Element.prototype.scrollIntoView = jest.fn();
  TestBed.resetTestingModule();
});

async function show<T>(component: Type<T>): Promise<{ fixture: ComponentFixture<T>; host: HTMLElement; settle: () => Promise<void> }> {
  const fixture = TestBed.createComponent(component);
  await fixture.whenStable();
  return { fixture, host: fixture.nativeElement as HTMLElement, settle: async () => void (await fixture.whenStable()) };
}

const button = (host: HTMLElement, name: string): HTMLElement => {
  const found = Array.from(host.querySelectorAll<HTMLElement>('button')).find((b) => (b.getAttribute('aria-label') ?? b.textContent)?.trim() === name);
  if (!found) throw new Error(`There is no button “${name}”.`);
  return found;
};

function field(host: HTMLElement, label: string): HTMLInputElement {
  const found = Array.from(host.querySelectorAll('label')).find((l) => l.textContent.trim() === label);
  return host.querySelector<HTMLInputElement>(`#${found?.htmlFor ?? 'none'}`)!;
}

async function type(host: HTMLElement, label: string, text: string, settle: () => Promise<void>): Promise<void> {
  const input = field(host, label);
  input.value = text;
  input.dispatchEvent(new Event('input'));
  input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
  await settle();
}

describe('the rosette', () => {
  it('chooses a plane by pointer and by keyboard, and says which', async () => {
    const { view } = openDrawing();
    const { host, settle } = await show(RosetteComponent);
    const sector = (name: string): SVGElement => host.querySelector<SVGElement>(`[aria-label="${name}"]`)!;
    sector('left wall').dispatchEvent(new MouseEvent('click'));
    await settle();
    expect(view.plane().kind).toBe('left');
    expect(sector('left wall').getAttribute('aria-checked')).toBe('true');
    sector('sheet').dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await settle();
    expect(view.plane().kind).toBe('sheet');
    // The floor lies between the drawn axes a and b, above the middle.
    expect(sector('floor').querySelector('path')!.getAttribute('d')).toMatch(/^M0 0L25\.11 -14\.50A29 29 0 0 0 -25\.11 -14\.50Z$/);
  });
});

describe('the way', () => {
  it('leads through the stages', async () => {
    const { view } = openDrawing();
    const { host, settle } = await show(WayComponent);
    button(host, 'Light').click();
    await settle();
    expect(view.stage()).toBe('light');
    expect(button(host, 'Light').getAttribute('aria-current')).toBe('step');
  });
});

describe('contents', () => {
  it('lists the topmost first, folds inner groups, and opens them for what is selected', async () => {
    const inner = { kind: 'group', id: 'in', name: 'inner', hidden: false, locked: false, children: [boxNode('deep')] } as const;
    const outer = { kind: 'group', id: 'out', name: 'outer', hidden: false, locked: false, children: [boxNode('low'), inner] } as const;
    const { view } = openDrawing(boxNode('ground'), outer);
    const { host, settle } = await show(ContentsComponent);
    const names = (): string[] => Array.from(host.querySelectorAll('.name'), (n) => n.textContent.trim());
    expect(names()).toEqual(['outer', 'inner', 'low', 'ground']);
    view.select(['deep']);
    await settle();
    expect(names()).toEqual(['outer', 'inner', 'deep', 'low', 'ground']);
    button(host, 'Fold inner').click();
    await settle();
    expect(names()).not.toContain('deep');
    button(host, 'Fold outer').click();
    await settle();
    expect(names()).toEqual(['outer', 'ground']);
  });

  it('renames, hides, locks, selects several and deletes', async () => {
    const { store, view } = openDrawing(boxNode('one'), boxNode('two'));
    const { host, settle } = await show(ContentsComponent);
    button(host, 'one').dispatchEvent(new MouseEvent('dblclick'));
    await settle();
    const naming = host.querySelector<HTMLInputElement>('.naming')!;
    naming.value = 'quay';
    naming.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await settle();
    expect(store.kept().nodes[0]!.name).toBe('quay');
    button(host, 'Hide two').click();
    button(host, 'Lock two').click();
    button(host, 'quay').click();
    button(host, 'two').dispatchEvent(new MouseEvent('click', { ctrlKey: true }));
    await settle();
    expect(view.selection()).toEqual(['one', 'two']);
    expect(store.kept().nodes[1]).toMatchObject({ hidden: true, locked: true });
    button(host, 'Delete two').click();
    expect(store.kept().nodes).toHaveLength(1);
  });
});

describe('the selection', () => {
  it('has figures that can be typed', async () => {
    const { store, view } = openDrawing(boxNode('box', [1, 2], [5, 4], 3));
    view.select(['box']);
    const { host, settle } = await show(SelectionComponent);
    await type(host, 'Length along a', '10', settle);
    await type(host, 'Position along b', '7', settle);
    await type(host, 'Depth', '16 mm', settle);
    await type(host, 'Offset along h', '1.5', settle);
    const node = store.kept().nodes[0]!;
    expect(node).toMatchObject({ depth: 2, plane: { offset: 1.5 }, outline: { points: [{ u: 1, v: 7 }, { u: 11, v: 7 }, { u: 11, v: 9 }, { u: 1, v: 9 }] } }); // prettier-ignore
    view.select([]);
    await settle();
    expect(host.textContent).toContain('Nothing is selected.');
  });
});

describe('the light bench', () => {
  it('shows the tones of three sides, and sets sun and ramp, each as one step', async () => {
    const { store, view } = openDrawing(boxNode('box'));
    view.select(['box']);
    const { host, settle } = await show(LightBenchComponent);
    const key = (): string => host.querySelector('[role=img]')!.getAttribute('aria-label')!;
    const before = key();
    expect(new Set(before.match(/#[0-9a-f]{6}/g)).size).toBe(3);
    await type(host, 'Elevation', '20', settle);
    expect(store.kept().light.sun.elevationDeg).toBe(20);
    expect(key()).not.toBe(before);
    await type(host, 'Facing the light', '25', settle);
    expect(store.kept().light.ramp.lit.lightness).toBe(0.25);
    host.querySelector('[role=slider]')!.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowLeft' }));
    expect(store.kept().light.sun.azimuthDeg).toBe(250);
    expect(store.history().steps).toHaveLength(3);
  });
});

describe('the ground bar', () => {
  it('names the plane, its axes and what one cell is', async () => {
    const { view } = openDrawing();
    const { host, settle } = await show(GroundBarComponent);
    view.setPlane('left');
    await settle();
    expect(host.querySelector('.plane')!.textContent).toBe('left wallb · h');
    expect(host.textContent).toContain('1 cell = 8\u2009mm');
    await type(host, 'Offset', '3', settle);
    expect(view.plane().offset).toBe(3);
  });
});
