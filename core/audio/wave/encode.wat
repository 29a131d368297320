;; Samples as files hold them (WebAssembly fixed-width SIMD), four at a time: the counts of frames given are multiples of four.
(module
  (import "encoder" "memory" (memory 1))

  ;; The highest absolute value of $frames floats.
  (func (export "highest") (param $in i32) (param $frames i32) (result f32)
    (local $end i32) (local $most v128)
    (local.set $end (i32.add (local.get $in) (i32.shl (local.get $frames) (i32.const 2))))
    (block $done
      (loop $four
        (br_if $done (i32.ge_u (local.get $in) (local.get $end)))
        (local.set $most (f32x4.pmax (local.get $most) (f32x4.abs (v128.load align=4 (local.get $in)))))
        (local.set $in (i32.add (local.get $in) (i32.const 16)))
        (br $four)))
    (f32.max
      (f32.max (f32x4.extract_lane 0 (local.get $most)) (f32x4.extract_lane 1 (local.get $most)))
      (f32.max (f32x4.extract_lane 2 (local.get $most)) (f32x4.extract_lane 3 (local.get $most)))))

  ;; Floats become integers in their place: floor(x $scale + dither + 1/2), held within -$full and $full - 1. The dither is that
  ;; of `dither.ts`: mulberry32, whose state grows by a constant, so that four can be drawn at once. It is a multiple of 2^-16, so
  ;; that the sum is exact in whole numbers of 2^-16: of the part of x $scale that is no whole number the rest makes no difference.
  (func (export "quantize") (param $in i32) (param $frames i32) (param $scale f32) (param $full i32) (param $state i32)
    (local $end i32) (local $states v128) (local $t v128) (local $x v128) (local $whole v128)
    (local.set $end (i32.add (local.get $in) (i32.shl (local.get $frames) (i32.const 2))))
    (local.set $states (i32x4.add (i32x4.splat (local.get $state))
      (i32x4.mul (i32x4.splat (i32.const 0x6D2B79F5)) (v128.const i32x4 1 2 3 4))))
    (block $done
      (loop $four
        (br_if $done (i32.ge_u (local.get $in) (local.get $end)))
        (local.set $t (i32x4.mul
          (v128.xor (local.get $states) (i32x4.shr_u (local.get $states) (i32.const 15)))
          (v128.or (local.get $states) (v128.const i32x4 1 1 1 1))))
        (local.set $t (v128.xor (local.get $t) (i32x4.add (local.get $t) (i32x4.mul
          (v128.xor (local.get $t) (i32x4.shr_u (local.get $t) (i32.const 7)))
          (v128.or (local.get $t) (v128.const i32x4 61 61 61 61))))))
        (local.set $t (v128.xor (local.get $t) (i32x4.shr_u (local.get $t) (i32.const 14))))
        ;; Two even numbers of 16 bits, one less the other, and a half.
        (local.set $t (i32x4.add (v128.const i32x4 0x8000 0x8000 0x8000 0x8000) (i32x4.sub
          (v128.and (local.get $t) (v128.const i32x4 0xFFFF 0xFFFF 0xFFFF 0xFFFF))
          (i32x4.shr_u (local.get $t) (i32.const 16)))))
        (local.set $x (f32x4.pmax (f32x4.splat (f32.const -0x1p24)) (f32x4.pmin (f32x4.splat (f32.const 0x1p24))
          (f32x4.mul (v128.load align=4 (local.get $in)) (f32x4.splat (local.get $scale))))))
        (local.set $whole (f32x4.trunc (local.get $x)))
        ;; Added to 3 x 2^22, a whole number of fewer than 22 bits lies in the last bits of the float: faster than a conversion.
        (local.set $t (i32x4.add (local.get $t) (i32x4.sub
          (f32x4.add (f32x4.splat (f32.const 0x1.8p23)) (f32x4.floor
            (f32x4.mul (f32x4.sub (local.get $x) (local.get $whole)) (f32x4.splat (f32.const 0x1p16)))))
          (v128.const i32x4 0x4B400000 0x4B400000 0x4B400000 0x4B400000))))
        (v128.store align=4 (local.get $in) (i32x4.max_s (i32x4.splat (i32.sub (i32.const 0) (local.get $full)))
          (i32x4.min_s (i32x4.splat (i32.sub (local.get $full) (i32.const 1)))
            (i32x4.add (i32x4.trunc_sat_f32x4_s (local.get $whole)) (i32x4.shr_s (local.get $t) (i32.const 16))))))
        (local.set $states (i32x4.add (local.get $states) (i32x4.splat (i32.mul (i32.const 0x6D2B79F5) (i32.const 4)))))
        (local.set $in (i32.add (local.get $in) (i32.const 16)))
        (br $four))))

  ;; Frames of two channels one after the other, 16 bit.
  (func (export "pack16") (param $left i32) (param $right i32) (param $out i32) (param $frames i32)
    (local $end i32)
    (local.set $end (i32.add (local.get $left) (i32.shl (local.get $frames) (i32.const 2))))
    (block $done
      (loop $four
        (br_if $done (i32.ge_u (local.get $left) (local.get $end)))
        (v128.store align=1 (local.get $out) (i8x16.shuffle 0 1 16 17 4 5 20 21 8 9 24 25 12 13 28 29
          (v128.load align=4 (local.get $left)) (v128.load align=4 (local.get $right))))
        (local.set $left (i32.add (local.get $left) (i32.const 16)))
        (local.set $right (i32.add (local.get $right) (i32.const 16)))
        (local.set $out (i32.add (local.get $out) (i32.const 16)))
        (br $four))))

  ;; The same, 24 bit: of the second store the first eight bytes count, the next frames are laid over the rest.
  (func (export "pack24") (param $left i32) (param $right i32) (param $out i32) (param $frames i32)
    (local $end i32) (local $l v128) (local $r v128)
    (local.set $end (i32.add (local.get $left) (i32.shl (local.get $frames) (i32.const 2))))
    (block $done
      (loop $four
        (br_if $done (i32.ge_u (local.get $left) (local.get $end)))
        (local.set $l (v128.load align=4 (local.get $left)))
        (local.set $r (v128.load align=4 (local.get $right)))
        (v128.store align=1 (local.get $out) (i8x16.shuffle 0 1 2 16 17 18 4 5 6 20 21 22 8 9 10 24 (local.get $l) (local.get $r)))
        (v128.store offset=16 align=1 (local.get $out) (i8x16.shuffle 25 26 12 13 14 28 29 30 0 0 0 0 0 0 0 0 (local.get $l) (local.get $r)))
        (local.set $left (i32.add (local.get $left) (i32.const 16)))
        (local.set $right (i32.add (local.get $right) (i32.const 16)))
        (local.set $out (i32.add (local.get $out) (i32.const 24)))
        (br $four))))

  ;; The same, floats as they are.
  (func (export "pack32") (param $left i32) (param $right i32) (param $out i32) (param $frames i32)
    (local $end i32) (local $l v128) (local $r v128)
    (local.set $end (i32.add (local.get $left) (i32.shl (local.get $frames) (i32.const 2))))
    (block $done
      (loop $four
        (br_if $done (i32.ge_u (local.get $left) (local.get $end)))
        (local.set $l (v128.load align=4 (local.get $left)))
        (local.set $r (v128.load align=4 (local.get $right)))
        (v128.store align=1 (local.get $out) (i8x16.shuffle 0 1 2 3 16 17 18 19 4 5 6 7 20 21 22 23 (local.get $l) (local.get $r)))
        (v128.store offset=16 align=1 (local.get $out) (i8x16.shuffle 8 9 10 11 24 25 26 27 12 13 14 15 28 29 30 31 (local.get $l) (local.get $r)))
        (local.set $left (i32.add (local.get $left) (i32.const 16)))
        (local.set $right (i32.add (local.get $right) (i32.const 16)))
        (local.set $out (i32.add (local.get $out) (i32.const 32)))
        (br $four)))))
