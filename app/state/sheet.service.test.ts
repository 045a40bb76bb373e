import { TestBed } from '@angular/core/testing';
import { applyEdit, emptyDocument, mmPer, rectangleOutline, startHistory } from '@core';
import { MessageStore } from '../platform/messages.store';
import { DocumentStore } from './document.store';
import { SheetService } from './sheet.service';

describe('a sheet that is typed in px', () => {
  const px = (): number => {
    const { sheet, grid } = TestBed.inject(DocumentStore).kept();
    return grid.cell / mmPer('px', sheet.resolution);
  };

  it('has cells of whole px where nothing is drawn yet', () => {
    const store = TestBed.inject(DocumentStore);
    store.load(startHistory(emptyDocument('d', 'd')));
    TestBed.inject(SheetService).setSide({ width: 800 * mmPer('px', store.kept().sheet.resolution) }, 'px');
    expect(store.kept().sheet.unit).toBe('px');
    expect(Math.abs(px() - Math.round(px()))).toBeLessThan(1e-9);
    expect(TestBed.inject(MessageStore).messages()[0]!.title).toContain(`${Math.round(px())}\u2009px`);
  });

  it('says what a cell is where something is drawn, and makes it whole by one press', () => {
    const store = TestBed.inject(DocumentStore);
    const node = { kind: 'shape' as const, id: 'a', name: 'a', hidden: false, locked: false, plane: { kind: 'floor' as const, offset: 0 }, outline: rectangleOutline({ u: 0, v: 0 }, { u: 2, v: 2 }), depth: 0, paint: { fill: '#112233', line: null } }; // prettier-ignore
    store.load(startHistory(applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes: [node], artworks: [] })));
    const { cell } = store.kept().grid;
    TestBed.inject(SheetService).setSide({ width: 800 * mmPer('px', store.kept().sheet.resolution) }, 'px');
    expect(store.kept().grid.cell).toBe(cell);
    const [message] = TestBed.inject(MessageStore).messages();
    expect(message!.title).toContain('a cell is');
    message!.action!.run();
    expect(Math.abs(px() - Math.round(px()))).toBeLessThan(1e-9);
  });
});
