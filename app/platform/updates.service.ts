import { inject, Injectable } from '@angular/core';
import { SwUpdate } from '@angular/service-worker';
import { MessageStore } from '../state/messages.store';
import { SessionService } from './session.service';

/** Tells when a newer Chemin has been fetched; it is taken when the person says so, after saving. */
@Injectable({ providedIn: 'root' })
export class UpdatesService {
  private readonly updates = inject(SwUpdate);
  private readonly messages = inject(MessageStore);
  private readonly session = inject(SessionService);

  watch(): void {
    if (!this.updates.isEnabled) return;
    this.updates.versionUpdates.subscribe((event) => {
      if (event.type !== 'VERSION_READY') return;
      this.messages.say('warn', 'A newer Chemin is ready', ['It is used from the next time that the page is opened.'], {
        label: 'Use it now',
        run: () => void this.session.saveNow().then(() => location.reload()),
      });
    });
  }
}
