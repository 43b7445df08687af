/** The name of the demo show. */
export const DEMO_NAME = 'Saltglass Quay';
