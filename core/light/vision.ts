/** Ways of seeing colours with one kind of cones missing: red, green or blue. */
export type ColourVision = 'protan' | 'deutan' | 'tritan';

/**
 * What colours look like with one kind of cones missing, as matrices of linear sRGB in rows: Machado, Oliveira &
 * Fernandes, A Physiologically-based Model for Simulation of Color Vision Deficiency, 2009, at full severity.
 */
export const COLOUR_VISION: Readonly<Record<ColourVision, readonly (readonly [number, number, number])[]>> = {
  protan: [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216], [-0.003882, -0.048116, 1.051998]], // prettier-ignore
  deutan: [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413], [-0.01182, 0.04294, 0.968881]], // prettier-ignore
  tritan: [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602], [0.004733, 0.691367, 0.3039]], // prettier-ignore
};
