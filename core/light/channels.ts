/** The channels of `#rrggbb`, from 0 to 255. */
export const channelsOf = (colour: string): readonly number[] => [1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16));

/** Channels from 0 to 255 as `#rrggbb`. */
export const hexOf = (channels: readonly number[]): string => `#${channels.map((value) => Math.round(value).toString(16).padStart(2, '0')).join('')}`;
