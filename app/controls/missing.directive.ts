import { Directive, ElementRef, inject, input } from '@angular/core';
import { MessageStore } from '../platform/messages.store';

/**
 * A button that cannot do its work now: it stays where the keyboard finds it, is announced as not available, says what
 * is missing when it is pointed at, and says it as a message when it is pressed.
 */
@Directive({
  selector: 'button[cheminMissing]',
  host: { '[attr.aria-disabled]': 'cheminMissing() === null ? null : true', '[attr.title]': 'cheminMissing()' },
})
export class MissingDirective {
  /** What is missing, as what to do first; null where the button works. */
  readonly cheminMissing = input.required<string | null>();
  private readonly messages = inject(MessageStore);

  constructor() {
    const button = inject<ElementRef<HTMLButtonElement>>(ElementRef).nativeElement;
    button.addEventListener(
      'click',
      (event) => {
        const missing = this.cheminMissing();
        if (missing === null) return;
        event.stopImmediatePropagation();
        event.preventDefault();
        this.messages.say('info', missing);
      },
      { capture: true },
    );
  }
}
