/** What the demo show is called. */
export const DEMO_NAME = 'Saltglass Quay';
