import '@testing-library/jest-dom';
import { configure } from '@testing-library/react';

// As in jest.config.js: what a page shows after a while is waited for as long as a slow machine may take.
configure({ asyncUtilTimeout: 60_000 });
