;; K-weighting (ITU-R BS.1770-4, annex 1): two second-order filters in a row, in double precision, and the squares of what comes
;; out of them summed up step by step. The same in plain code takes a third longer.
(module
  (import "weighting" "memory" (memory 1))

  ;; Adds the sum of each step of $step samples to what stands at $out. What the filters remember lies at $state: the last two
  ;; values that went into the first, between them, and out of the second. $b and $a are the first filter's, $c the second's.
  (func (export "weigh") (param $in i32) (param $count i32) (param $step i32) (param $out i32) (param $state i32)
    (param $b0 f64) (param $b1 f64) (param $b2 f64) (param $a1 f64) (param $a2 f64) (param $c1 f64) (param $c2 f64)
    (local $end i32) (local $stepEnd i32) (local $sum f64)
    (local $x f64) (local $x1 f64) (local $x2 f64) (local $y f64) (local $y1 f64) (local $y2 f64) (local $z f64) (local $z1 f64) (local $z2 f64)
    (local.set $x1 (f64.load (local.get $state)))
    (local.set $x2 (f64.load offset=8 (local.get $state)))
    (local.set $y1 (f64.load offset=16 (local.get $state)))
    (local.set $y2 (f64.load offset=24 (local.get $state)))
    (local.set $z1 (f64.load offset=32 (local.get $state)))
    (local.set $z2 (f64.load offset=40 (local.get $state)))
    (local.set $end (i32.add (local.get $in) (i32.shl (local.get $count) (i32.const 2))))
    (block $done
      (loop $steps
        (br_if $done (i32.ge_u (local.get $in) (local.get $end)))
        (local.set $stepEnd (i32.add (local.get $in) (i32.shl (local.get $step) (i32.const 2))))
        (if (i32.gt_u (local.get $stepEnd) (local.get $end)) (then (local.set $stepEnd (local.get $end))))
        (local.set $sum (f64.const 0))
        (loop $one
          (local.set $x (f64.promote_f32 (f32.load (local.get $in))))
          ;; What came out last is taken last: all before it is ready by then.
          (local.set $y (f64.sub (f64.sub (f64.add (f64.add
            (f64.mul (local.get $b0) (local.get $x))
            (f64.mul (local.get $b1) (local.get $x1)))
            (f64.mul (local.get $b2) (local.get $x2)))
            (f64.mul (local.get $a2) (local.get $y2)))
            (f64.mul (local.get $a1) (local.get $y1))))
          (local.set $z (f64.sub (f64.sub (f64.add (f64.sub
            (local.get $y)
            (f64.add (local.get $y1) (local.get $y1)))
            (local.get $y2))
            (f64.mul (local.get $c2) (local.get $z2)))
            (f64.mul (local.get $c1) (local.get $z1))))
          (local.set $x2 (local.get $x1))
          (local.set $x1 (local.get $x))
          (local.set $y2 (local.get $y1))
          (local.set $y1 (local.get $y))
          (local.set $z2 (local.get $z1))
          (local.set $z1 (local.get $z))
          (local.set $sum (f64.add (local.get $sum) (f64.mul (local.get $z) (local.get $z))))
          (local.set $in (i32.add (local.get $in) (i32.const 4)))
          (br_if $one (i32.lt_u (local.get $in) (local.get $stepEnd))))
        (f64.store (local.get $out) (f64.add (f64.load (local.get $out)) (local.get $sum)))
        (local.set $out (i32.add (local.get $out) (i32.const 8)))
        (br $steps)))
    (f64.store (local.get $state) (local.get $x1))
    (f64.store offset=8 (local.get $state) (local.get $x2))
    (f64.store offset=16 (local.get $state) (local.get $y1))
    (f64.store offset=24 (local.get $state) (local.get $y2))
    (f64.store offset=32 (local.get $state) (local.get $z1))
    (f64.store offset=40 (local.get $state) (local.get $z2))))
