import Dexie from 'dexie';
import { isFull, storageWords } from './storage-words';

describe('why storage refused', () => {
  it('is told in words, whatever wraps the browser’s error', () => {
    const full = new DOMException('x', 'QuotaExceededError');
    const wrapped = new Dexie.AbortError('QuotaExceededError', full as unknown as Error);
    for (const error of [full, wrapped, { name: 'QuotaExceededError' }]) {
      expect(isFull(error)).toBe(true);
      expect(storageWords(error)).toMatch(/is full/);
    }
    expect(storageWords(new Dexie.VersionError('x'))).toMatch(/later Chemin/);
    expect(storageWords(new Dexie.DatabaseClosedError())).toMatch(/closed/);
    expect(storageWords(new Error('the disk is on fire'))).toBe('the disk is on fire');
    expect(storageWords(null)).toMatch(/does not say why/);
    for (const error of [full, wrapped, new Dexie.DatabaseClosedError()]) expect(storageWords(error)).not.toMatch(/Error/);
  });
});
