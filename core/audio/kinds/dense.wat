;; One layer of a network, four inputs at a time (WebAssembly fixed-width SIMD): the sum of all inputs times the weights of a
;; unit, and its bias; never less than $least. Inputs and the rows of weights are filled up with zeros to a multiple of four.
(module
  (import "dense" "memory" (memory 1))
  (func (export "dense") (param $in i32) (param $rowBytes i32) (param $weights i32) (param $biases i32) (param $units i32) (param $least f32) (param $out i32)
    (local $end i32) (local $at i32) (local $sum v128)
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $units) (i32.const 2))))
    (loop $unit
      (local.set $sum (v128.const i32x4 0 0 0 0))
      (local.set $at (i32.const 0))
      (loop $four
        (local.set $sum (f32x4.add (local.get $sum) (f32x4.mul
          (v128.load (i32.add (local.get $in) (local.get $at)))
          (v128.load (i32.add (local.get $weights) (local.get $at))))))
        (local.set $at (i32.add (local.get $at) (i32.const 16)))
        (br_if $four (i32.lt_u (local.get $at) (local.get $rowBytes))))
      (f32.store (local.get $out) (f32.max (local.get $least) (f32.add (f32.load (local.get $biases)) (f32.add
        (f32.add (f32x4.extract_lane 0 (local.get $sum)) (f32x4.extract_lane 1 (local.get $sum)))
        (f32.add (f32x4.extract_lane 2 (local.get $sum)) (f32x4.extract_lane 3 (local.get $sum)))))))
      (local.set $weights (i32.add (local.get $weights) (local.get $rowBytes)))
      (local.set $biases (i32.add (local.get $biases) (i32.const 4)))
      (local.set $out (i32.add (local.get $out) (i32.const 4)))
      (br_if $unit (i32.lt_u (local.get $out) (local.get $end))))))
