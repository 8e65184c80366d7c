/** Features that Playwright turns off; of several lists Chromium goes by the last, so they are named again. */
const offForPlaywright = [
  'AvoidUnnecessaryBeforeUnloadCheckSync',
  'DestroyProfileOnBrowserClose',
  'HttpsUpgrades',
  'HttpsFirstBalancedModeAutoEnable',
  'LensOverlay',
  'MediaRouter',
  'PaintHolding',
  'ThirdPartyStoragePartitioning',
  'AvoidCorsURLLoaderRestartOnRedirect',
  'OptimizationHints',
  'NetworkTimeServiceQuerying',
  'AimEnabled',
  'PreconnectToSearch',
];
/** The address bar's lists are pages of their own, which each window loads in a process beside ours, for a second of the processor's time. */
const offForSpeed = ['WebUIOmniboxPopup', 'WebUIOmniboxAimPopup', 'WebUIOmniboxFullPopup'];

/** How Chromium is started for journeys and measurements: without what it does for itself, and without asking the network for anything. */
export const chromiumArguments = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  `--disable-features=${[...offForPlaywright, ...offForSpeed].join(',')}`,
];
