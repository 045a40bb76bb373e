// The demo drawings, made by code from a made-up scenario: "Quay Nine", a ferry landing.
import { deckPlan } from './deck-plan';
import { landing } from './landing';
import { lighthouse } from './lighthouse';
import { quayNine } from './quay-nine';

export { deckPlan, landing, lighthouse, quayNine };

/** The demo drawings by their keys. */
export const DEMOS = { landing, quay9: quayNine, deck: deckPlan, lighthouse } as const;
export type DemoKey = keyof typeof DEMOS;
