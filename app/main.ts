import { provideZonelessChangeDetection, isDevMode } from '@angular/core';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideServiceWorker } from '@angular/service-worker';
import { providePrimeNG } from 'primeng/config';
import { ShellComponent } from './shell/shell.component';
import { CheminPreset } from './theme/preset';

bootstrapApplication(ShellComponent, {
  providers: [
    provideZonelessChangeDetection(),
    provideServiceWorker('ngsw-worker.js', { enabled: !isDevMode(), registrationStrategy: 'registerWhenStable:30000' }),
    providePrimeNG({ theme: { preset: CheminPreset, options: { darkModeSelector: '.dark', cssLayer: false } } }),
  ],
}).catch((error: unknown) => console.error(error));
