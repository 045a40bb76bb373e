// The demo drawings, made by code from a made-up scenario: "Quay Nine", a ferry landing.
import { deckPlan } from './deck-plan';
import { EVENING_HASH, eveningPicture } from './evening';
import { funnel, funnelAssets } from './funnel';
import { hoarding } from './hoarding';
import { landing } from './landing';
import { lighthouse } from './lighthouse';
import { quayNine } from './quay-nine';

export { deckPlan, funnel, hoarding, landing, lighthouse, quayNine };

/** The demo drawings by their keys. */
export const DEMOS = { landing, quay9: quayNine, deck: deckPlan, lighthouse, hoarding, funnel } as const;
/** The bytes that demo drawings name, by their SHA-256; made when they are first needed. */
export const demoAssets = (key: keyof typeof DEMOS): ReadonlyMap<string, Uint8Array> =>
  key === 'funnel' ? funnelAssets() : new Map(key === 'hoarding' ? [[EVENING_HASH, eveningPicture()]] : []);

export type DemoKey = keyof typeof DEMOS;
