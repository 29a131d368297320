;; Band-limited interpolation, eight taps at a time (WebAssembly fixed-width SIMD).
;; Each row of the table holds the taps of one place between two samples, filled up with zeros to a multiple of eight; the
;; value is blended between the two rows about the wanted place.
(module
  (import "pitch" "memory" (memory 1))
  (func (export "interpolate")
    (param $in i32) (param $out i32) (param $count i32) (param $position f64) (param $step f64)
    (param $table i32) (param $rowBytes i32) (param $halfWidth i32) (param $phases f64)
    (local $i i32) (local $at f64) (local $base f64) (local $phase f64) (local $whole f64)
    (local $row i32) (local $source i32) (local $tap i32) (local $x v128) (local $low v128) (local $high v128)
    (block $done
      (loop $samples
        (br_if $done (i32.ge_u (local.get $i) (local.get $count)))
        (local.set $at (f64.add (local.get $position) (f64.mul (f64.convert_i32_u (local.get $i)) (local.get $step))))
        (local.set $base (f64.floor (local.get $at)))
        (local.set $phase (f64.mul (f64.sub (local.get $at) (local.get $base)) (local.get $phases)))
        (local.set $whole (f64.floor (local.get $phase)))
        (local.set $row (i32.add (local.get $table) (i32.mul (i32.trunc_f64_u (local.get $whole)) (local.get $rowBytes))))
        (local.set $source (i32.add (local.get $in) (i32.shl
          (i32.add (i32.sub (i32.trunc_f64_s (local.get $base)) (local.get $halfWidth)) (i32.const 1)) (i32.const 2))))
        (local.set $low (v128.const i32x4 0 0 0 0))
        (local.set $high (v128.const i32x4 0 0 0 0))
        (local.set $tap (i32.const 0))
        (loop $taps
          (local.set $x (v128.load align=4 (i32.add (local.get $source) (local.get $tap))))
          (local.set $low (f32x4.add (local.get $low) (f32x4.mul (local.get $x)
            (v128.load align=4 (i32.add (local.get $row) (local.get $tap))))))
          (local.set $high (f32x4.add (local.get $high) (f32x4.mul (local.get $x)
            (v128.load align=4 (i32.add (i32.add (local.get $row) (local.get $rowBytes)) (local.get $tap))))))
          (local.set $x (v128.load offset=16 align=4 (i32.add (local.get $source) (local.get $tap))))
          (local.set $low (f32x4.add (local.get $low) (f32x4.mul (local.get $x)
            (v128.load offset=16 align=4 (i32.add (local.get $row) (local.get $tap))))))
          (local.set $high (f32x4.add (local.get $high) (f32x4.mul (local.get $x)
            (v128.load offset=16 align=4 (i32.add (i32.add (local.get $row) (local.get $rowBytes)) (local.get $tap))))))
          (local.set $tap (i32.add (local.get $tap) (i32.const 32)))
          (br_if $taps (i32.lt_u (local.get $tap) (local.get $rowBytes))))
        ;; low + (high - low) x blend, then the four lanes are added up.
        (local.set $low (f32x4.add (local.get $low) (f32x4.mul
          (f32x4.sub (local.get $high) (local.get $low))
          (f32x4.splat (f32.demote_f64 (f64.sub (local.get $phase) (local.get $whole)))))))
        (f32.store (i32.add (local.get $out) (i32.shl (local.get $i) (i32.const 2))) (f32.add
          (f32.add (f32x4.extract_lane 0 (local.get $low)) (f32x4.extract_lane 1 (local.get $low)))
          (f32.add (f32x4.extract_lane 2 (local.get $low)) (f32x4.extract_lane 3 (local.get $low)))))
        (local.set $i (i32.add (local.get $i) (i32.const 1)))
        (br $samples)))))
