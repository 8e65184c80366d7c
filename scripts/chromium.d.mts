/** How Chromium is started for journeys and measurements: without what it does for itself, and without asking the network for anything. */
export const chromiumArguments: string[];
