;; Levels of bands over time, a row of $bands values a frame, and how much they rise (WebAssembly fixed-width SIMD).
(module
  (import "bandLevels" "memory" (memory 1))

  ;; log(1 + value * $inside) * $outside in place of each value, four at a time; what follows up to a whole four is lost.
  ;; Source of the polynomial: S. L. Moshier, Cephes mathematical library, `logf`.
  (func (export "levels") (param $at i32) (param $count i32) (param $inside f32) (param $outside f32)
    (local $end i32) (local $x v128) (local $exponent v128) (local $isLow v128) (local $square v128) (local $y v128)
    (local.set $end (i32.add (local.get $at) (i32.shl (local.get $count) (i32.const 2))))
    (block $done
      (loop $four
        (br_if $done (i32.ge_u (local.get $at) (local.get $end)))
        (local.set $x (f32x4.add (f32x4.splat (f32.const 1)) (f32x4.mul (v128.load (local.get $at)) (f32x4.splat (local.get $inside)))))
        (local.set $exponent (i32x4.sub (i32x4.shr_u (local.get $x) (i32.const 23)) (i32x4.splat (i32.const 126))))
        (local.set $x (v128.or (v128.and (local.get $x) (i32x4.splat (i32.const 0x7fffff))) (i32x4.splat (i32.const 0x3f000000))))
        (local.set $isLow (f32x4.lt (local.get $x) (f32x4.splat (f32.const 0.707106781186547524))))
        ;; A lane that is true is -1.
        (local.set $exponent (i32x4.add (local.get $exponent) (local.get $isLow)))
        (local.set $x (f32x4.sub (f32x4.add (local.get $x) (v128.and (local.get $x) (local.get $isLow))) (f32x4.splat (f32.const 1))))
        (local.set $square (f32x4.mul (local.get $x) (local.get $x)))
        (local.set $y (f32x4.splat (f32.const 7.0376836292e-2)))
        (local.set $y (f32x4.add (f32x4.mul (local.get $y) (local.get $x)) (f32x4.splat (f32.const -1.1514610310e-1))))
        (local.set $y (f32x4.add (f32x4.mul (local.get $y) (local.get $x)) (f32x4.splat (f32.const 1.1676998740e-1))))
        (local.set $y (f32x4.add (f32x4.mul (local.get $y) (local.get $x)) (f32x4.splat (f32.const -1.2420140846e-1))))
        (local.set $y (f32x4.add (f32x4.mul (local.get $y) (local.get $x)) (f32x4.splat (f32.const 1.4249322787e-1))))
        (local.set $y (f32x4.add (f32x4.mul (local.get $y) (local.get $x)) (f32x4.splat (f32.const -1.6668057665e-1))))
        (local.set $y (f32x4.add (f32x4.mul (local.get $y) (local.get $x)) (f32x4.splat (f32.const 2.0000714765e-1))))
        (local.set $y (f32x4.add (f32x4.mul (local.get $y) (local.get $x)) (f32x4.splat (f32.const -2.4999993993e-1))))
        (local.set $y (f32x4.add (f32x4.mul (local.get $y) (local.get $x)) (f32x4.splat (f32.const 3.3333331174e-1))))
        (local.set $y (f32x4.mul (f32x4.mul (local.get $y) (local.get $x)) (local.get $square)))
        ;; The logarithm of two in two parts, so that little is lost in rounding.
        (local.set $exponent (f32x4.convert_i32x4_s (local.get $exponent)))
        (local.set $y (f32x4.add (local.get $y) (f32x4.mul (local.get $exponent) (f32x4.splat (f32.const -2.12194440e-4)))))
        (local.set $y (f32x4.sub (local.get $y) (f32x4.mul (local.get $square) (f32x4.splat (f32.const 0.5)))))
        (local.set $y (f32x4.add (f32x4.add (local.get $x) (local.get $y)) (f32x4.mul (local.get $exponent) (f32x4.splat (f32.const 0.693359375)))))
        (v128.store (local.get $at) (f32x4.mul (local.get $y) (f32x4.splat (local.get $outside))))
        (local.set $at (i32.add (local.get $at) (i32.const 16)))
        (br $four))))

  ;; Mean of the $kept highest of $count values. $top: room for $kept values.
  (func $meanOfHighest (export "meanOfHighest") (param $in i32) (param $count i32) (param $kept i32) (param $top i32) (result f64)
    (local $end i32) (local $last i32) (local $place i32) (local $value f32) (local $sum f64)
    (local.set $end (i32.add (local.get $in) (i32.shl (local.get $count) (i32.const 2))))
    (local.set $last (i32.add (local.get $top) (i32.shl (i32.sub (local.get $kept) (i32.const 1)) (i32.const 2))))
    (local.set $place (local.get $top))
    (loop $empty
      (f32.store (local.get $place) (f32.const -inf))
      (local.set $place (i32.add (local.get $place) (i32.const 4)))
      (br_if $empty (i32.le_u (local.get $place) (local.get $last))))
    (loop $values
      (local.set $value (f32.load (local.get $in)))
      (if (f32.gt (local.get $value) (f32.load (local.get $last)))
        (then
          (local.set $place (local.get $last))
          (block $found
            (loop $higher
              (br_if $found (i32.le_u (local.get $place) (local.get $top)))
              (br_if $found (f32.ge (f32.load (i32.sub (local.get $place) (i32.const 4))) (local.get $value)))
              (f32.store (local.get $place) (f32.load (i32.sub (local.get $place) (i32.const 4))))
              (local.set $place (i32.sub (local.get $place) (i32.const 4)))
              (br $higher)))
          (f32.store (local.get $place) (local.get $value))))
      (local.set $in (i32.add (local.get $in) (i32.const 4)))
      (br_if $values (i32.lt_u (local.get $in) (local.get $end))))
    (loop $add
      (local.set $sum (f64.add (local.get $sum) (f64.promote_f32 (f32.load (local.get $top)))))
      (local.set $top (i32.add (local.get $top) (i32.const 4)))
      (br_if $add (i32.le_u (local.get $top) (local.get $last))))
    (f64.div (local.get $sum) (f64.convert_i32_u (local.get $kept))))

  ;; Of each frame the mean of the $kept highest rises since the frame before, 0 of the first. $bands: a multiple of four.
  ;; $rises: room for $bands values; $top: for $kept.
  (func (export "flux") (param $levels i32) (param $frames i32) (param $bands i32) (param $kept i32) (param $rises i32) (param $top i32) (param $out i32)
    (local $row i32) (local $band i32) (local $end i32)
    (local.set $row (i32.shl (local.get $bands) (i32.const 2)))
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $frames) (i32.const 2))))
    (f32.store (local.get $out) (f32.const 0))
    (block $done
      (loop $each
        (local.set $out (i32.add (local.get $out) (i32.const 4)))
        (br_if $done (i32.ge_u (local.get $out) (local.get $end)))
        (local.set $band (i32.const 0))
        (loop $four
          (v128.store (i32.add (local.get $rises) (local.get $band)) (f32x4.pmax (v128.const i32x4 0 0 0 0) (f32x4.sub
            (v128.load (i32.add (i32.add (local.get $levels) (local.get $row)) (local.get $band)))
            (v128.load (i32.add (local.get $levels) (local.get $band))))))
          (local.set $band (i32.add (local.get $band) (i32.const 16)))
          (br_if $four (i32.lt_u (local.get $band) (local.get $row))))
        (f32.store (local.get $out) (f32.demote_f64 (call $meanOfHighest (local.get $rises) (local.get $bands) (local.get $kept) (local.get $top))))
        (local.set $levels (i32.add (local.get $levels) (local.get $row)))
        (br $each)))))
