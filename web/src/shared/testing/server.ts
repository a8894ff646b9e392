import { setupServer } from "msw/node";

/** Takes the place of the server in unit tests. */
export const server = setupServer();
