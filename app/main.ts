import { inject, isDevMode, provideEnvironmentInitializer, provideZonelessChangeDetection } from '@angular/core';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideServiceWorker } from '@angular/service-worker';
import { providePrimeNG } from 'primeng/config';
import { STAGES } from './features/stages';
import { shown } from './platform/shown';
import { KernelService } from './platform/kernel.service';
import { ShellComponent } from './shell/shell.component';
import { STAGE_LINKS, StagesService } from './state/stages.service';
import { CheminPreset } from './theme/preset';

bootstrapApplication(ShellComponent, {
  providers: [
    provideZonelessChangeDetection(),
    { provide: STAGE_LINKS, useValue: STAGES },
    // The stage that is shown first comes while the rest starts.
    provideEnvironmentInitializer(() => void inject(StagesService).load('draw')),
    provideEnvironmentInitializer(() => inject(KernelService).start()),
    provideServiceWorker('ngsw-worker.js', { enabled: !isDevMode(), registrationStrategy: () => shown }),
    providePrimeNG({ theme: { preset: CheminPreset, options: { darkModeSelector: '.dark', cssLayer: false } } }),
  ],
}).catch((error: unknown) => console.error(error));
