import type { Position } from '@mistpeak/core/geo/position';
import type { PathResult } from '@mistpeak/core/path-lab/compare';
import type { FillInVerdict } from '@mistpeak/core/path-lab/fill-in';
import type { Stage } from '@mistpeak/core/path-lab/follow';
import type { Lab, Sender } from '@mistpeak/core/path-lab/lab';
import type { Situation } from '@mistpeak/core/path-lab/advice';
import type { BestSpot, SpotsWish } from '@mistpeak/core/propagation/best-spots';
import type { Reach, RadioEnd } from '@mistpeak/core/propagation/margin';
import type { ReachMapWish } from '@mistpeak/core/propagation/reach-map';

/** What is reckoned off the page's own thread. */
export interface PathJobs {
  compare: {
    readonly asked: {
      readonly lab: Lab;
      readonly sender: Sender;
      readonly paths: readonly string[];
      readonly packets: number;
      readonly seed: number;
    };
    readonly answer: {
      readonly results: readonly PathResult[];
      readonly situation: Situation;
      readonly stages: readonly (readonly Stage[])[];
      /** Of the others alone, as their packets' share of the time. */
      readonly isGroundKnown: boolean;
    };
  };
  'fill-in': {
    readonly asked: {
      readonly lab: Lab;
      readonly sender: Sender;
      readonly packets: number;
      readonly seed: number;
    };
    readonly answer: FillInVerdict;
  };
  reach: {
    readonly asked: { readonly here: RadioEnd; readonly there: RadioEnd; readonly frequencyMHz: number };
    readonly answer: Omit<Reach, 'profile'> & {
      readonly distancesKm: readonly number[];
      readonly heightsM: readonly number[];
      readonly antenna1M: number;
      readonly antenna2M: number;
      readonly isGroundKnown: boolean;
    };
  };
  /** Whom one reaches by voice, and who reaches one: the lesser chance of both, in the order in which they were asked for. */
  voice: {
    readonly asked: {
      readonly here: RadioEnd;
      readonly there: readonly RadioEnd[];
      readonly frequencyMHz: number;
    };
    readonly answer: { readonly chances: readonly number[]; readonly isGroundKnown: boolean };
  };
  /** What the ground leaves of the way to each gateway: the lesser chance of both ways, and the ground in even steps. */
  gateways: {
    readonly asked: {
      readonly here: RadioEnd;
      readonly there: readonly {
        readonly key: string;
        readonly end: RadioEnd;
        readonly frequencyMHz: number;
      }[];
    };
    readonly answer: {
      readonly ways: readonly {
        readonly key: string;
        readonly chance: number;
        readonly marginDb: number;
        readonly heightsM: readonly number[];
        /** Where the ground stands above the line of sight, of the whole way, 0–1. */
        readonly blockedAt?: number;
      }[];
      readonly isGroundKnown: boolean;
    };
  };
  map: {
    readonly asked: ReachMapWish;
    readonly answer: {
      readonly rays: readonly {
        readonly bearingDeg: number;
        readonly marginsDb: Float32Array;
        readonly places: readonly Position[];
      }[];
      readonly isGroundKnown: boolean;
    };
  };
  spots: {
    readonly asked: SpotsWish;
    readonly answer: { readonly spots: readonly BestSpot[]; readonly isGroundKnown: boolean };
  };
}

export type PathJob = keyof PathJobs;

export type PathRequest = {
  [Job in PathJob]: {
    readonly job: Job;
    readonly asked: PathJobs[Job]['asked'];
    /** The tiles that the server has. */
    readonly tiles: readonly string[];
  };
}[PathJob];

export type PathReply =
  | { readonly kind: 'progress'; readonly share: number }
  | { readonly kind: 'failed'; readonly words: string }
  | { readonly kind: 'done'; readonly answer: PathJobs[PathJob]['answer'] };
