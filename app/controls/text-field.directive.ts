import { Directive, ElementRef, inject } from '@angular/core';

/** A field whose text is taken when it is left or at Enter; Escape puts back what was there. */
@Directive({
  selector: 'input[cheminText]',
  host: { '(focus)': 'before = field.value', '(keydown.enter)': 'field.blur()', '(keydown.escape)': 'putBack()' },
})
export class TextFieldDirective {
  protected readonly field = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;
  protected before = '';

  protected putBack(): void {
    this.field.value = this.before;
    this.field.blur();
  }
}
