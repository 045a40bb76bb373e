import { afterNextRender, Directive, ElementRef, inject } from '@angular/core';

/** Takes the focus when it appears, with its text selected: for a field that the person has just asked for. */
@Directive({ selector: 'input[cheminTakeFocus]' })
export class TakeFocusDirective {
  private readonly field = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;

  constructor() {
    afterNextRender(() => {
      this.field.focus();
      this.field.select();
    });
  }
}
