/** What is said of a recording in each of its states. */
export const STATES = {
  off: 'opening the microphone …',
  asking: 'opening the microphone …',
  listening: 'ready',
  starting: 'starting …',
  recording: 'recording',
  paused: 'paused; resume goes on in the same take',
  ending: 'finishing …',
} as const
