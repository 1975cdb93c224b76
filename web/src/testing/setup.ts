import '@testing-library/jest-dom';
import { configure } from '@testing-library/react';

// As in jest.config.js: what a page shows after a while is waited for as long as a slow machine may take.
configure({ asyncUtilTimeout: 60_000 });

// What is typed into a form is kept for the window: each test has a window of its own.
afterEach(() => sessionStorage.clear());

// jsdom draws nothing, and so moves nothing.
Element.prototype.animate = () => ({ finished: Promise.resolve() }) as unknown as Animation;

// Styles stay out of the document: jsdom would match each of MUI's rules against an element whenever a test asks for a role.
jest.mock('@emotion/cache', () => {
  const real = jest.requireActual<{ default: (options: object) => object }>('@emotion/cache');
  const unseen = (options: object): object =>
    real.default({ ...options, container: document.createElement('div') });
  return { __esModule: true, ...real, default: unseen };
});
