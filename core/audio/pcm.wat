;; Stored samples of one channel as floats, full scale at +-1. $stride: bytes from one of its samples to the next.
(module
  (import "pcm" "memory" (memory 1))

  ;; 16 bit integers.
  (func (export "int16") (param $in i32) (param $stride i32) (param $count i32) (param $bigEndian i32) (param $out i32)
    (local $end i32) (local $value i32)
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 2))))
    (loop $samples
      (local.set $value (i32.load16_u (local.get $in)))
      (if (local.get $bigEndian) (then
        (local.set $value (i32.or (i32.shl (local.get $value) (i32.const 8)) (i32.shr_u (local.get $value) (i32.const 8))))))
      (f32.store (local.get $out) (f32.mul (f32.convert_i32_s (i32.extend16_s (local.get $value))) (f32.const 0x1p-15)))
      (local.set $in (i32.add (local.get $in) (local.get $stride)))
      (local.set $out (i32.add (local.get $out) (i32.const 4)))
      (br_if $samples (i32.lt_u (local.get $out) (local.get $end)))))

  ;; 24 bit integers.
  (func (export "int24") (param $in i32) (param $stride i32) (param $count i32) (param $bigEndian i32) (param $out i32)
    (local $end i32) (local $high i32)
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 2))))
    ;; Where the byte with the sign lies; the lowest lies at the other end.
    (local.set $high (select (i32.const 0) (i32.const 2) (local.get $bigEndian)))
    (loop $samples
      (f32.store (local.get $out) (f32.mul (f32.convert_i32_s (i32.or
        (i32.or
          (i32.shl (i32.load8_s (i32.add (local.get $in) (local.get $high))) (i32.const 16))
          (i32.shl (i32.load8_u offset=1 (local.get $in)) (i32.const 8)))
        (i32.load8_u (i32.add (local.get $in) (i32.sub (i32.const 2) (local.get $high)))))) (f32.const 0x1p-23)))
      (local.set $in (i32.add (local.get $in) (local.get $stride)))
      (local.set $out (i32.add (local.get $out) (i32.const 4)))
      (br_if $samples (i32.lt_u (local.get $out) (local.get $end)))))

  ;; 32 bit integers.
  (func (export "int32") (param $in i32) (param $stride i32) (param $count i32) (param $bigEndian i32) (param $out i32)
    (local $end i32) (local $value i32)
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 2))))
    (loop $samples
      (local.set $value (i32.load align=1 (local.get $in)))
      (if (local.get $bigEndian) (then
        (local.set $value (i32.or
          (i32.and (i32.rotl (local.get $value) (i32.const 8)) (i32.const 0x00FF00FF))
          (i32.and (i32.rotr (local.get $value) (i32.const 8)) (i32.const 0xFF00FF00))))))
      (f32.store (local.get $out) (f32.mul (f32.convert_i32_s (local.get $value)) (f32.const 0x1p-31)))
      (local.set $in (i32.add (local.get $in) (local.get $stride)))
      (local.set $out (i32.add (local.get $out) (i32.const 4)))
      (br_if $samples (i32.lt_u (local.get $out) (local.get $end)))))

  ;; Floats of 32 bit, little-endian; what is not finite becomes 0: its difference from itself is not 0.
  (func (export "float32") (param $in i32) (param $stride i32) (param $count i32) (param $out i32)
    (local $end i32) (local $value f32)
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 2))))
    (loop $samples
      (local.set $value (f32.load align=1 (local.get $in)))
      (f32.store (local.get $out) (select (local.get $value) (f32.const 0) (f32.eq (f32.sub (local.get $value) (local.get $value)) (f32.const 0))))
      (local.set $in (i32.add (local.get $in) (local.get $stride)))
      (local.set $out (i32.add (local.get $out) (i32.const 4)))
      (br_if $samples (i32.lt_u (local.get $out) (local.get $end))))))
