import { isFloorDevice } from './floor';

/** A short sound and a tremble on the floor, so that nobody need look: high for what was taken, low for what meant nothing. */
export function signal(isTaken: boolean): void {
  if (!isFloorDevice()) return;
  if ('vibrate' in navigator) navigator.vibrate(isTaken ? 50 : [60, 60, 60]);
  if (typeof AudioContext === 'undefined') return;
  const context = new AudioContext();
  const sound = context.createOscillator();
  const volume = context.createGain();
  sound.frequency.value = isTaken ? 1400 : 320;
  volume.gain.value = 0.08;
  sound.connect(volume).connect(context.destination);
  sound.start();
  sound.stop(context.currentTime + (isTaken ? 0.09 : 0.25));
  sound.onended = () => void context.close();
}
