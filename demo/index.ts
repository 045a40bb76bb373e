// The demo drawings, made by code from a made-up scenario: "Quay Nine", a ferry landing.
export { landing } from './landing';
