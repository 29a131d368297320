;; Polyphase filtering, eight taps at a time (WebAssembly fixed-width SIMD): each value is the sum of a stretch of the input
;; times the row of taps of its phase. Rows are filled up with zeros to a multiple of eight.
(module
  (import "polyphase" "memory" (memory 1))
  (func (export "convert")
    (param $in i32) (param $out i32) (param $count i32) (param $phase i32) (param $up i32) (param $down i32)
    (param $table i32) (param $rowBytes i32)
    (local $end i32) (local $row i32) (local $tap i32) (local $one v128) (local $two v128)
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 2))))
    (block $done
      (loop $values
        (br_if $done (i32.ge_u (local.get $out) (local.get $end)))
        (local.set $row (i32.add (local.get $table) (i32.mul (local.get $phase) (local.get $rowBytes))))
        (local.set $one (v128.const i32x4 0 0 0 0))
        (local.set $two (v128.const i32x4 0 0 0 0))
        (local.set $tap (i32.const 0))
        (loop $taps
          (local.set $one (f32x4.add (local.get $one) (f32x4.mul
            (v128.load align=4 (i32.add (local.get $in) (local.get $tap)))
            (v128.load align=4 (i32.add (local.get $row) (local.get $tap))))))
          (local.set $two (f32x4.add (local.get $two) (f32x4.mul
            (v128.load offset=16 align=4 (i32.add (local.get $in) (local.get $tap)))
            (v128.load offset=16 align=4 (i32.add (local.get $row) (local.get $tap))))))
          (local.set $tap (i32.add (local.get $tap) (i32.const 32)))
          (br_if $taps (i32.lt_u (local.get $tap) (local.get $rowBytes))))
        (local.set $one (f32x4.add (local.get $one) (local.get $two)))
        (f32.store (local.get $out) (f32.add
          (f32.add (f32x4.extract_lane 0 (local.get $one)) (f32x4.extract_lane 1 (local.get $one)))
          (f32.add (f32x4.extract_lane 2 (local.get $one)) (f32x4.extract_lane 3 (local.get $one)))))
        (local.set $out (i32.add (local.get $out) (i32.const 4)))
        ;; The next value lies down/up of a sample further on.
        (local.set $phase (i32.add (local.get $phase) (local.get $down)))
        (local.set $in (i32.add (local.get $in) (i32.shl (i32.div_u (local.get $phase) (local.get $up)) (i32.const 2))))
        (local.set $phase (i32.rem_u (local.get $phase) (local.get $up)))
        (br $values)))))
