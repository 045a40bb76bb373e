/** A setting that can be found by words: where it stands, and the name of the control that is then focused. */
export interface Setting {
  readonly title: string;
  /** What different trades call it. */
  readonly words: string;
  readonly stage: string;
  readonly tool: string;
  /** Names of controls, the wanted one first; the next stand in where it is not shown. */
  readonly controls: readonly string[];
  /** What has to be there for the control to be shown. */
  readonly wants?: 'things' | 'several' | 'shapes' | 'perspective';
}

/** A setting of a stage, shown with one of its tools. */
export const setting = (stage: string, tool: string, title: string, words: string, controls: readonly string[], wants?: Setting['wants']): Setting => ({
  title,
  words,
  stage,
  tool,
  controls,
  ...(wants && { wants }),
});
