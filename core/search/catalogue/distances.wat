;; Distances of one vector to many, 16 values at a time (WebAssembly fixed-width SIMD).
;; Rows are 128 bytes each; what is beyond a vector's own length is 0 in all of them.
(module
  (import "catalogue" "memory" (memory 1))
  (func (export "distances")
    (param $vector i32) (param $row i32) (param $end i32) (param $out i32) (param $most i32)
    (local $sum v128) (local $limit v128) (local $i i32) (local $a v128) (local $b v128)
    (local.set $limit (i8x16.splat (local.get $most)))
    (block $done
      (loop $rows
        (br_if $done (i32.ge_u (local.get $row) (local.get $end)))
        (local.set $sum (v128.const i32x4 0 0 0 0))
        (local.set $i (i32.const 0))
        (loop $values
          (local.set $a (v128.load (i32.add (local.get $vector) (local.get $i))))
          (local.set $b (v128.load (i32.add (local.get $row) (local.get $i))))
          ;; The difference without sign, at most the limit; pairs of them are added up in 16 bits.
          (local.set $sum (i16x8.add (local.get $sum) (i16x8.extadd_pairwise_i8x16_u
            (i8x16.min_u (local.get $limit) (v128.or
              (i8x16.sub_sat_u (local.get $a) (local.get $b))
              (i8x16.sub_sat_u (local.get $b) (local.get $a)))))))
          (local.set $i (i32.add (local.get $i) (i32.const 16)))
          (br_if $values (i32.lt_u (local.get $i) (i32.const 128))))
        (local.set $sum (i32x4.extadd_pairwise_i16x8_u (local.get $sum)))
        (i32.store16 (local.get $out) (i32.add
          (i32.add (i32x4.extract_lane 0 (local.get $sum)) (i32x4.extract_lane 1 (local.get $sum)))
          (i32.add (i32x4.extract_lane 2 (local.get $sum)) (i32x4.extract_lane 3 (local.get $sum)))))
        (local.set $out (i32.add (local.get $out) (i32.const 2)))
        (local.set $row (i32.add (local.get $row) (i32.const 128)))
        (br $rows)))))
