import { Directive, ElementRef, inject, input, type OnInit } from '@angular/core';

/** Remembers whether a foldable part is open, by its name, for as long as the browser keeps it. */
@Directive({ selector: 'details[cheminFold]', host: { '(toggle)': 'keep()' } })
export class FoldDirective implements OnInit {
  readonly cheminFold = input.required<string>();
  private readonly details = inject<ElementRef<HTMLDetailsElement>>(ElementRef).nativeElement;

  ngOnInit(): void {
    try {
      const kept = localStorage.getItem(`chemin-fold-${this.cheminFold()}`);
      if (kept !== null) this.details.open = kept === 'open';
    } catch {
      // Without storage parts are as they come.
    }
  }

  protected keep(): void {
    try {
      localStorage.setItem(`chemin-fold-${this.cheminFold()}`, this.details.open ? 'open' : 'folded');
    } catch {
      // See above.
    }
  }
}
