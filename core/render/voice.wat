;; What voices do most, four or eight values at a time (WebAssembly fixed-width SIMD).
(module
  (import "voice" "memory" (memory 1))

  ;; Band-limited interpolation of one channel. Each row of the table holds the taps of one place between two samples, filled up
  ;; with zeros to a multiple of eight; the value is blended between the two rows about the wanted place.
  (func (export "interpolate")
    (param $in i32) (param $out i32) (param $count i32) (param $position f64) (param $step f64)
    (param $table i32) (param $rowBytes i32) (param $halfWidth i32) (param $phases f64)
    (local $end i32) (local $n f64) (local $at f64) (local $base f64) (local $phase f64) (local $whole f64)
    (local $row i32) (local $next i32) (local $source i32) (local $last i32) (local $x v128) (local $y v128)
    (local $low v128) (local $high v128) (local $low2 v128) (local $high2 v128)
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 2))))
    (local.set $in (i32.sub (local.get $in) (i32.shl (i32.sub (local.get $halfWidth) (i32.const 1)) (i32.const 2))))
    (block $done
      (loop $samples
        (br_if $done (i32.ge_u (local.get $out) (local.get $end)))
        (local.set $at (f64.add (local.get $position) (f64.mul (local.get $n) (local.get $step))))
        (local.set $base (f64.floor (local.get $at)))
        (local.set $phase (f64.mul (f64.sub (local.get $at) (local.get $base)) (local.get $phases)))
        (local.set $whole (f64.floor (local.get $phase)))
        (local.set $row (i32.add (local.get $table) (i32.mul (i32.trunc_f64_u (local.get $whole)) (local.get $rowBytes))))
        (local.set $next (i32.add (local.get $row) (local.get $rowBytes)))
        (local.set $last (local.get $next))
        (local.set $source (i32.add (local.get $in) (i32.shl (i32.trunc_f64_s (local.get $base)) (i32.const 2))))
        (local.set $low (v128.const i32x4 0 0 0 0))
        (local.set $high (v128.const i32x4 0 0 0 0))
        (local.set $low2 (v128.const i32x4 0 0 0 0))
        (local.set $high2 (v128.const i32x4 0 0 0 0))
        (loop $taps
          (local.set $x (v128.load align=4 (local.get $source)))
          (local.set $y (v128.load offset=16 align=4 (local.get $source)))
          (local.set $low (f32x4.add (local.get $low) (f32x4.mul (local.get $x) (v128.load align=4 (local.get $row)))))
          (local.set $high (f32x4.add (local.get $high) (f32x4.mul (local.get $x) (v128.load align=4 (local.get $next)))))
          (local.set $low2 (f32x4.add (local.get $low2) (f32x4.mul (local.get $y) (v128.load offset=16 align=4 (local.get $row)))))
          (local.set $high2 (f32x4.add (local.get $high2) (f32x4.mul (local.get $y) (v128.load offset=16 align=4 (local.get $next)))))
          (local.set $source (i32.add (local.get $source) (i32.const 32)))
          (local.set $row (i32.add (local.get $row) (i32.const 32)))
          (local.set $next (i32.add (local.get $next) (i32.const 32)))
          (br_if $taps (i32.lt_u (local.get $row) (local.get $last))))
        ;; low + (high - low) x blend, then the four lanes are added up.
        (local.set $low (f32x4.add (local.get $low) (local.get $low2)))
        (local.set $low (f32x4.add (local.get $low) (f32x4.mul
          (f32x4.sub (f32x4.add (local.get $high) (local.get $high2)) (local.get $low))
          (f32x4.splat (f32.demote_f64 (f64.sub (local.get $phase) (local.get $whole)))))))
        (f32.store (local.get $out) (f32.add
          (f32.add (f32x4.extract_lane 0 (local.get $low)) (f32x4.extract_lane 1 (local.get $low)))
          (f32.add (f32x4.extract_lane 2 (local.get $low)) (f32x4.extract_lane 3 (local.get $low)))))
        (local.set $out (i32.add (local.get $out) (i32.const 4)))
        (local.set $n (f64.add (local.get $n) (f64.const 1)))
        (br $samples))))

  ;; The same of two channels at once: the taps are blended once for both. The second channel and its result lie $apart bytes
  ;; after the first.
  (func (export "interpolateTwo")
    (param $in i32) (param $out i32) (param $count i32) (param $position f64) (param $step f64)
    (param $table i32) (param $rowBytes i32) (param $halfWidth i32) (param $phases f64) (param $inApart i32) (param $outApart i32)
    (local $end i32) (local $n f64) (local $at f64) (local $base f64) (local $phase f64) (local $whole f64)
    (local $row i32) (local $next i32) (local $source i32) (local $other i32) (local $last i32)
    (local $blend v128) (local $one v128) (local $two v128)
    (local $left v128) (local $right v128) (local $left2 v128) (local $right2 v128)
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 2))))
    (local.set $in (i32.sub (local.get $in) (i32.shl (i32.sub (local.get $halfWidth) (i32.const 1)) (i32.const 2))))
    (block $done
      (loop $samples
        (br_if $done (i32.ge_u (local.get $out) (local.get $end)))
        (local.set $at (f64.add (local.get $position) (f64.mul (local.get $n) (local.get $step))))
        (local.set $base (f64.floor (local.get $at)))
        (local.set $phase (f64.mul (f64.sub (local.get $at) (local.get $base)) (local.get $phases)))
        (local.set $whole (f64.floor (local.get $phase)))
        (local.set $blend (f32x4.splat (f32.demote_f64 (f64.sub (local.get $phase) (local.get $whole)))))
        (local.set $row (i32.add (local.get $table) (i32.mul (i32.trunc_f64_u (local.get $whole)) (local.get $rowBytes))))
        (local.set $next (i32.add (local.get $row) (local.get $rowBytes)))
        (local.set $last (local.get $next))
        (local.set $source (i32.add (local.get $in) (i32.shl (i32.trunc_f64_s (local.get $base)) (i32.const 2))))
        (local.set $other (i32.add (local.get $source) (local.get $inApart)))
        (local.set $left (v128.const i32x4 0 0 0 0))
        (local.set $right (v128.const i32x4 0 0 0 0))
        (local.set $left2 (v128.const i32x4 0 0 0 0))
        (local.set $right2 (v128.const i32x4 0 0 0 0))
        (loop $taps
          (local.set $one (v128.load align=4 (local.get $row)))
          (local.set $two (v128.load offset=16 align=4 (local.get $row)))
          (local.set $one (f32x4.add (local.get $one) (f32x4.mul (local.get $blend) (f32x4.sub (v128.load align=4 (local.get $next)) (local.get $one)))))
          (local.set $two (f32x4.add (local.get $two) (f32x4.mul (local.get $blend) (f32x4.sub (v128.load offset=16 align=4 (local.get $next)) (local.get $two)))))
          (local.set $left (f32x4.add (local.get $left) (f32x4.mul (local.get $one) (v128.load align=4 (local.get $source)))))
          (local.set $right (f32x4.add (local.get $right) (f32x4.mul (local.get $one) (v128.load align=4 (local.get $other)))))
          (local.set $left2 (f32x4.add (local.get $left2) (f32x4.mul (local.get $two) (v128.load offset=16 align=4 (local.get $source)))))
          (local.set $right2 (f32x4.add (local.get $right2) (f32x4.mul (local.get $two) (v128.load offset=16 align=4 (local.get $other)))))
          (local.set $source (i32.add (local.get $source) (i32.const 32)))
          (local.set $other (i32.add (local.get $other) (i32.const 32)))
          (local.set $row (i32.add (local.get $row) (i32.const 32)))
          (local.set $next (i32.add (local.get $next) (i32.const 32)))
          (br_if $taps (i32.lt_u (local.get $row) (local.get $last))))
        (local.set $left (f32x4.add (local.get $left) (local.get $left2)))
        (local.set $right (f32x4.add (local.get $right) (local.get $right2)))
        (f32.store (local.get $out) (f32.add
          (f32.add (f32x4.extract_lane 0 (local.get $left)) (f32x4.extract_lane 1 (local.get $left)))
          (f32.add (f32x4.extract_lane 2 (local.get $left)) (f32x4.extract_lane 3 (local.get $left)))))
        (f32.store (i32.add (local.get $out) (local.get $outApart)) (f32.add
          (f32.add (f32x4.extract_lane 0 (local.get $right)) (f32x4.extract_lane 1 (local.get $right)))
          (f32.add (f32x4.extract_lane 2 (local.get $right)) (f32x4.extract_lane 3 (local.get $right)))))
        (local.set $out (i32.add (local.get $out) (i32.const 4)))
        (local.set $n (f64.add (local.get $n) (f64.const 1)))
        (br $samples))))

  ;; Adds $count values times a gain to others. The last ones, fewer than four, one by one.
  (func (export "add") (param $in i32) (param $out i32) (param $count i32) (param $gain f32)
    (local $end i32) (local $gains v128)
    (local.set $gains (f32x4.splat (local.get $gain)))
    (local.set $end (i32.add (local.get $in) (i32.shl (i32.and (local.get $count) (i32.const -4)) (i32.const 2))))
    (block $done
      (loop $four
        (br_if $done (i32.ge_u (local.get $in) (local.get $end)))
        (v128.store align=4 (local.get $out) (f32x4.add
          (v128.load align=4 (local.get $out))
          (f32x4.mul (v128.load align=4 (local.get $in)) (local.get $gains))))
        (local.set $in (i32.add (local.get $in) (i32.const 16)))
        (local.set $out (i32.add (local.get $out) (i32.const 16)))
        (br $four)))
    (local.set $end (i32.add (local.get $end) (i32.shl (i32.and (local.get $count) (i32.const 3)) (i32.const 2))))
    (block $done
      (loop $one
        (br_if $done (i32.ge_u (local.get $in) (local.get $end)))
        (f32.store (local.get $out) (f32.add (f32.load (local.get $out)) (f32.mul (f32.load (local.get $in)) (local.get $gain))))
        (local.set $in (i32.add (local.get $in) (i32.const 4)))
        (local.set $out (i32.add (local.get $out) (i32.const 4)))
        (br $one)))))
