import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MessageStore } from '../platform/messages.store';
import { MissingDirective } from './missing.directive';

@Component({ imports: [MissingDirective], template: '<button [cheminMissing]="missing()" (click)="done = done + 1">Join</button>' })
class HostComponent {
  readonly missing = signal<string | null>('Select a line first.');
  done = 0;
}

describe('a button that something is missing for', () => {
  it('says so and does nothing, stays reachable, and works when it is there', async () => {
    const fixture = TestBed.createComponent(HostComponent);
    await fixture.whenStable();
    const button = (fixture.nativeElement as HTMLElement).querySelector('button')!;
    const messages = TestBed.inject(MessageStore);
    button.click();
    expect(fixture.componentInstance.done).toBe(0);
    expect(messages.messages().map((message) => message.title)).toEqual(['Select a line first.']);
    expect([button.disabled, button.getAttribute('aria-disabled'), button.title]).toEqual([false, 'true', 'Select a line first.']);
    fixture.componentInstance.missing.set(null);
    await fixture.whenStable();
    button.click();
    expect(fixture.componentInstance.done).toBe(1);
    expect([button.hasAttribute('aria-disabled'), button.hasAttribute('title')]).toEqual([false, false]);
  });
});
