/** What is used of the chart library. */
declare module 'plotly.js-basic-dist-min' {
  const charts: {
    newPlot(host: HTMLElement, data: readonly object[], layout: object, config: object): Promise<unknown>;
  };
  export default charts;
}
