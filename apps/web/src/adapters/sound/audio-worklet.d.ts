/** The scope of an audio worklet (W3C Web Audio API, "AudioWorkletGlobalScope"), as far as it is used. */
declare const sampleRate: number;
declare abstract class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(
  name: string,
  processor: new (options: {
    readonly processorOptions: { readonly channel: number };
  }) => AudioWorkletProcessor,
): void;
