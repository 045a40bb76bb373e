import { inject, Injectable } from '@angular/core';
import { SwUpdate } from '@angular/service-worker';
import { MessageStore } from '../platform/messages.store';
import { KeepingService } from './keeping.service';

/** Tells when a newer Chemin has been fetched; it is taken when the person says so, after saving. */
@Injectable({ providedIn: 'root' })
export class UpdatesService {
  private readonly updates = inject(SwUpdate);
  private readonly messages = inject(MessageStore);
  private readonly keeping = inject(KeepingService);

  watch(): void {
    if (!this.updates.isEnabled) return;
    this.updates.versionUpdates.subscribe((event) => {
      if (event.type !== 'VERSION_READY') return;
      this.messages.say('warn', 'A newer Chemin is ready', ['It is used from the next time that the page is opened.'], {
        label: 'Use it now',
        run: () => void this.keeping.saveNow().then(() => location.reload()),
      });
    });
  }
}
