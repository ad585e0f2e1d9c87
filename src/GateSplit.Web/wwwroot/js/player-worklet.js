// Mixes all tracks of a take in step. It is fed chunks of equal length for every track and plays them one after the
// other, so the tracks can never slip against each other; a chunk that is late is waited for in silence.
class TakePlayer extends AudioWorkletProcessor {
  constructor() {
    super();
    this.chunks = [];
    this.at = 0;
    this.gains = [];
    this.port.onmessage = ({ data }) => {
      if (data.chunk) this.chunks.push(data.chunk);
      if (data.gains) this.gains = data.gains;
      if (data.clear) {
        this.chunks = [];
        this.at = 0;
      }
    };
  }

  process(_, [output]) {
    const frames = output[0].length;
    let done = 0;
    while (done < frames && this.chunks.length > 0) {
      const chunk = this.chunks[0];
      const count = Math.min(frames - done, chunk.frames - this.at);
      chunk.tracks.forEach((track, index) => {
        const gains = this.gains[index] ?? [1, 1];
        output.forEach((side, s) => {
          const gain = gains[s];
          if (gain === 0) return;
          const samples = track[Math.min(s, track.length - 1)];
          for (let i = 0; i < count; i++) side[done + i] += gain * samples[this.at + i];
        });
      });
      this.at += count;
      done += count;
      if (this.at === chunk.frames) {
        this.chunks.shift();
        this.at = 0;
        this.port.postMessage({ played: chunk.start + chunk.frames, last: chunk.last });
      }
    }
    return true;
  }
}

registerProcessor("take-player", TakePlayer);
