export interface PictureRequest {
  readonly id: number;
  readonly picture: Blob;
  /** Of the result; a smaller picture stays as it is. */
  readonly longestPx: number;
  /** 0 to 1. */
  readonly quality: number;
}

export type PictureReply =
  | {
      readonly id: number;
      readonly smaller: Blob;
      readonly width: number;
      readonly height: number;
      readonly fromWidth: number;
      readonly fromHeight: number;
      readonly failed?: undefined;
    }
  | { readonly id: number; readonly failed: true };
