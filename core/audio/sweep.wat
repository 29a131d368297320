;; Passes over all samples, four at a time (WebAssembly fixed-width SIMD). Lengths count in samples; the rest that makes no
;; four is gone through one by one.
(module
  (import "sweep" "memory" (memory 1))

  ;; The highest absolute value of each step of $step samples, where it is above what stands in $out already.
  (func (export "peaks") (param $in i32) (param $count i32) (param $step i32) (param $out i32)
    (local $end i32) (local $stepEnd i32) (local $fours i32) (local $high v128) (local $highest f32)
    (local.set $end (i32.add (local.get $in) (i32.shl (local.get $count) (i32.const 2))))
    (block $done
      (loop $steps
        (br_if $done (i32.ge_u (local.get $in) (local.get $end)))
        (local.set $stepEnd (i32.add (local.get $in) (i32.shl (local.get $step) (i32.const 2))))
        (if (i32.gt_u (local.get $stepEnd) (local.get $end)) (then (local.set $stepEnd (local.get $end))))
        (local.set $high (v128.const i32x4 0 0 0 0))
        (local.set $highest (f32.load (local.get $out)))
        (local.set $fours (i32.sub (local.get $stepEnd) (i32.const 15)))
        (block $rest
          (loop $four
            (br_if $rest (i32.ge_s (local.get $in) (local.get $fours)))
            (local.set $high (f32x4.pmax (local.get $high) (f32x4.abs (v128.load align=4 (local.get $in)))))
            (local.set $in (i32.add (local.get $in) (i32.const 16)))
            (br $four)))
        (block $full
          (loop $one
            (br_if $full (i32.ge_u (local.get $in) (local.get $stepEnd)))
            (local.set $highest (f32.max (local.get $highest) (f32.abs (f32.load (local.get $in)))))
            (local.set $in (i32.add (local.get $in) (i32.const 4)))
            (br $one)))
        (f32.store (local.get $out) (f32.max
          (f32.max (local.get $highest) (f32.max (f32x4.extract_lane 0 (local.get $high)) (f32x4.extract_lane 1 (local.get $high))))
          (f32.max (f32x4.extract_lane 2 (local.get $high)) (f32x4.extract_lane 3 (local.get $high)))))
        (local.set $out (i32.add (local.get $out) (i32.const 4)))
        (br $steps))))

  ;; The lowest and the highest value, where they pass those that stand in $out already.
  (func $extremes (export "extremes") (param $in i32) (param $count i32) (param $out i32)
    (local $end i32) (local $fours i32) (local $low v128) (local $high v128) (local $value v128) (local $lowest f32) (local $highest f32)
    (local.set $end (i32.add (local.get $in) (i32.shl (local.get $count) (i32.const 2))))
    (local.set $fours (i32.sub (local.get $end) (i32.const 15)))
    (local.set $lowest (f32.load (local.get $out)))
    (local.set $highest (f32.load offset=4 (local.get $out)))
    (local.set $low (f32x4.splat (local.get $lowest)))
    (local.set $high (f32x4.splat (local.get $highest)))
    (block $rest
      (loop $four
        (br_if $rest (i32.ge_s (local.get $in) (local.get $fours)))
        (local.set $value (v128.load align=4 (local.get $in)))
        (local.set $low (f32x4.pmin (local.get $low) (local.get $value)))
        (local.set $high (f32x4.pmax (local.get $high) (local.get $value)))
        (local.set $in (i32.add (local.get $in) (i32.const 16)))
        (br $four)))
    (block $full
      (loop $one
        (br_if $full (i32.ge_u (local.get $in) (local.get $end)))
        (local.set $lowest (f32.min (local.get $lowest) (f32.load (local.get $in))))
        (local.set $highest (f32.max (local.get $highest) (f32.load (local.get $in))))
        (local.set $in (i32.add (local.get $in) (i32.const 4)))
        (br $one)))
    (f32.store (local.get $out) (f32.min
      (f32.min (local.get $lowest) (f32.min (f32x4.extract_lane 0 (local.get $low)) (f32x4.extract_lane 1 (local.get $low))))
      (f32.min (f32x4.extract_lane 2 (local.get $low)) (f32x4.extract_lane 3 (local.get $low)))))
    (f32.store offset=4 (local.get $out) (f32.max
      (f32.max (local.get $highest) (f32.max (f32x4.extract_lane 0 (local.get $high)) (f32x4.extract_lane 1 (local.get $high))))
      (f32.max (f32x4.extract_lane 2 (local.get $high)) (f32x4.extract_lane 3 (local.get $high))))))

  ;; The same for each of the $columns parts of $frames samples from $first to before $last, where $in holds the first of these
  ;; from its beginning. None is without a sample, and where there are more parts than samples neighbours share them.
  (func (export "outline") (param $in i32) (param $first i32) (param $last i32) (param $columns i32) (param $frames i32) (param $out i32)
    (local $base i32) (local $from i32) (local $next i32)
    (local.set $base (call $edge (local.get $first) (local.get $columns) (local.get $frames)))
    (local.set $from (local.get $base))
    (loop $column
      (local.set $first (i32.add (local.get $first) (i32.const 1)))
      (local.set $next (call $edge (local.get $first) (local.get $columns) (local.get $frames)))
      (call $extremes
        (i32.add (local.get $in) (i32.shl (i32.sub (local.get $from) (local.get $base)) (i32.const 2)))
        (select (i32.sub (local.get $next) (local.get $from)) (i32.const 1) (i32.gt_u (local.get $next) (local.get $from)))
        (local.get $out))
      (local.set $from (local.get $next))
      (local.set $out (i32.add (local.get $out) (i32.const 8)))
      (br_if $column (i32.lt_u (local.get $first) (local.get $last)))))

  ;; Where a part begins.
  (func $edge (param $column i32) (param $columns i32) (param $frames i32) (result i32)
    (i32.wrap_i64 (i64.div_u
      (i64.mul (i64.extend_i32_u (local.get $column)) (i64.extend_i32_u (local.get $frames)))
      (i64.extend_i32_u (local.get $columns)))))

  ;; How often the level of the lows passes from one side of zero to the other, before one sample and from another on: counted up
  ;; in the last two of five numbers in $state; the others are what two low-passes in a row ($keep: what stays of the last
  ;; value) have come to, and the side. The sample at $in is the one numbered $number.
  (func (export "swings") (param $in i32) (param $count i32) (param $keep f64) (param $number i32) (param $before i32) (param $from i32) (param $state i32)
    (local $end i32) (local $one f64) (local $two f64) (local $side f64) (local $now f64)
    (local.set $one (f64.load (local.get $state)))
    (local.set $two (f64.load offset=8 (local.get $state)))
    (local.set $side (f64.load offset=16 (local.get $state)))
    (local.set $end (i32.add (local.get $in) (i32.shl (local.get $count) (i32.const 2))))
    (loop $samples
      (local.set $one (f64.add (f64.mul (local.get $one) (local.get $keep))
        (f64.mul (f64.promote_f32 (f32.load (local.get $in))) (f64.sub (f64.const 1) (local.get $keep)))))
      (local.set $two (f64.add (f64.mul (local.get $two) (local.get $keep)) (f64.mul (local.get $one) (f64.sub (f64.const 1) (local.get $keep)))))
      (local.set $now (select (f64.const 1) (f64.const -1) (f64.gt (local.get $two) (f64.const 0))))
      (if (f64.ne (local.get $now) (local.get $side))
        (then
          (if (i32.lt_u (local.get $number) (local.get $before))
            (then (f64.store offset=24 (local.get $state) (f64.add (f64.load offset=24 (local.get $state)) (f64.const 1)))))
          (if (i32.ge_u (local.get $number) (local.get $from))
            (then (f64.store offset=32 (local.get $state) (f64.add (f64.load offset=32 (local.get $state)) (f64.const 1)))))))
      (local.set $side (local.get $now))
      (local.set $number (i32.add (local.get $number) (i32.const 1)))
      (local.set $in (i32.add (local.get $in) (i32.const 4)))
      (br_if $samples (i32.lt_u (local.get $in) (local.get $end))))
    (f64.store (local.get $state) (local.get $one))
    (f64.store offset=8 (local.get $state) (local.get $two))
    (f64.store offset=16 (local.get $state) (local.get $side)))

  ;; Negative zeros become zeros.
  (func (export "clearNegativeZeros") (param $in i32) (param $count i32)
    (local $end i32) (local $value v128)
    (local.set $end (i32.add (local.get $in) (i32.shl (local.get $count) (i32.const 2))))
    (loop $four
      (local.set $value (v128.load (local.get $in)))
      (v128.store (local.get $in) (v128.andnot (local.get $value) (i32x4.eq (local.get $value) (v128.const i32x4 0x80000000 0x80000000 0x80000000 0x80000000))))
      (local.set $in (i32.add (local.get $in) (i32.const 16)))
      (br_if $four (i32.lt_u (local.get $in) (local.get $end)))))

  ;; How many values stand on another side of zero than the one before them; zero itself counts as below.
  (func (export "crossings") (param $in i32) (param $count i32) (result i32)
    (local $end i32) (local $fours i32) (local $found i32)
    (local.set $end (i32.add (local.get $in) (i32.shl (local.get $count) (i32.const 2))))
    (local.set $in (i32.add (local.get $in) (i32.const 4)))
    (local.set $fours (i32.sub (local.get $end) (i32.const 15)))
    (block $rest
      (loop $four
        (br_if $rest (i32.ge_s (local.get $in) (local.get $fours)))
        (local.set $found (i32.add (local.get $found) (i32.popcnt (i32x4.bitmask (v128.xor
          (f32x4.gt (v128.load align=4 (local.get $in)) (v128.const i32x4 0 0 0 0))
          (f32x4.gt (v128.load align=4 (i32.sub (local.get $in) (i32.const 4))) (v128.const i32x4 0 0 0 0)))))))
        (local.set $in (i32.add (local.get $in) (i32.const 16)))
        (br $four)))
    (block $full
      (loop $one
        (br_if $full (i32.ge_s (local.get $in) (local.get $end)))
        (local.set $found (i32.add (local.get $found) (i32.xor
          (f32.gt (f32.load (local.get $in)) (f32.const 0))
          (f32.gt (f32.load (i32.sub (local.get $in) (i32.const 4))) (f32.const 0)))))
        (local.set $in (i32.add (local.get $in) (i32.const 4)))
        (br $one)))
    (local.get $found))

  ;; The sum of all values in double precision.
  (func (export "sum") (param $in i32) (param $count i32) (result f64)
    (local $end i32) (local $fours i32) (local $value v128) (local $one v128) (local $two v128) (local $rest f64)
    (local.set $end (i32.add (local.get $in) (i32.shl (local.get $count) (i32.const 2))))
    (local.set $fours (i32.sub (local.get $end) (i32.const 15)))
    (block $left
      (loop $four
        (br_if $left (i32.ge_s (local.get $in) (local.get $fours)))
        (local.set $value (v128.load align=4 (local.get $in)))
        (local.set $one (f64x2.add (local.get $one) (f64x2.promote_low_f32x4 (local.get $value))))
        (local.set $two (f64x2.add (local.get $two) (f64x2.promote_low_f32x4
          (i8x16.shuffle 8 9 10 11 12 13 14 15 0 1 2 3 4 5 6 7 (local.get $value) (local.get $value)))))
        (local.set $in (i32.add (local.get $in) (i32.const 16)))
        (br $four)))
    (block $full
      (loop $single
        (br_if $full (i32.ge_u (local.get $in) (local.get $end)))
        (local.set $rest (f64.add (local.get $rest) (f64.promote_f32 (f32.load (local.get $in)))))
        (local.set $in (i32.add (local.get $in) (i32.const 4)))
        (br $single)))
    (local.set $one (f64x2.add (local.get $one) (local.get $two)))
    (f64.add (local.get $rest) (f64.add (f64x2.extract_lane 0 (local.get $one)) (f64x2.extract_lane 1 (local.get $one)))))

  ;; The sum of all squares in double precision.
  (func (export "squares") (param $in i32) (param $count i32) (result f64)
    (local $end i32) (local $fours i32) (local $value v128) (local $low v128) (local $high v128) (local $one v128) (local $two v128) (local $rest f64)
    (local.set $end (i32.add (local.get $in) (i32.shl (local.get $count) (i32.const 2))))
    (local.set $fours (i32.sub (local.get $end) (i32.const 15)))
    (block $left
      (loop $four
        (br_if $left (i32.ge_s (local.get $in) (local.get $fours)))
        (local.set $value (v128.load align=4 (local.get $in)))
        (local.set $low (f64x2.promote_low_f32x4 (local.get $value)))
        (local.set $high (f64x2.promote_low_f32x4 (i8x16.shuffle 8 9 10 11 12 13 14 15 0 1 2 3 4 5 6 7 (local.get $value) (local.get $value))))
        (local.set $one (f64x2.add (local.get $one) (f64x2.mul (local.get $low) (local.get $low))))
        (local.set $two (f64x2.add (local.get $two) (f64x2.mul (local.get $high) (local.get $high))))
        (local.set $in (i32.add (local.get $in) (i32.const 16)))
        (br $four)))
    (block $full
      (loop $single
        (br_if $full (i32.ge_u (local.get $in) (local.get $end)))
        (local.set $rest (f64.add (local.get $rest) (f64.mul (f64.promote_f32 (f32.load (local.get $in))) (f64.promote_f32 (f32.load (local.get $in))))))
        (local.set $in (i32.add (local.get $in) (i32.const 4)))
        (br $single)))
    (local.set $one (f64x2.add (local.get $one) (local.get $two)))
    (f64.add (local.get $rest) (f64.add (f64x2.extract_lane 0 (local.get $one)) (f64x2.extract_lane 1 (local.get $one)))))

  ;; Adds the sum of the squares of each step of $step samples to what stands in $out already, in double precision. Within a step
  ;; single precision is enough.
  (func (export "energies") (param $in i32) (param $count i32) (param $step i32) (param $out i32)
    (local $end i32) (local $stepEnd i32) (local $fours i32) (local $value v128) (local $four v128) (local $rest f64)
    (local.set $end (i32.add (local.get $in) (i32.shl (local.get $count) (i32.const 2))))
    (block $done
      (loop $steps
        (br_if $done (i32.ge_u (local.get $in) (local.get $end)))
        (local.set $stepEnd (i32.add (local.get $in) (i32.shl (local.get $step) (i32.const 2))))
        (if (i32.gt_u (local.get $stepEnd) (local.get $end)) (then (local.set $stepEnd (local.get $end))))
        (local.set $fours (i32.sub (local.get $stepEnd) (i32.const 15)))
        (local.set $four (v128.const i32x4 0 0 0 0))
        (local.set $rest (f64.load (local.get $out)))
        (block $left
          (loop $next
            (br_if $left (i32.ge_s (local.get $in) (local.get $fours)))
            (local.set $value (v128.load align=4 (local.get $in)))
            (local.set $four (f32x4.add (local.get $four) (f32x4.mul (local.get $value) (local.get $value))))
            (local.set $in (i32.add (local.get $in) (i32.const 16)))
            (br $next)))
        (block $full
          (loop $one
            (br_if $full (i32.ge_u (local.get $in) (local.get $stepEnd)))
            (local.set $rest (f64.add (local.get $rest) (f64.promote_f32 (f32.mul (f32.load (local.get $in)) (f32.load (local.get $in))))))
            (local.set $in (i32.add (local.get $in) (i32.const 4)))
            (br $one)))
        (f64.store (local.get $out) (f64.add (local.get $rest) (f64.add
          (f64.add (f64.promote_f32 (f32x4.extract_lane 0 (local.get $four))) (f64.promote_f32 (f32x4.extract_lane 1 (local.get $four))))
          (f64.add (f64.promote_f32 (f32x4.extract_lane 2 (local.get $four))) (f64.promote_f32 (f32x4.extract_lane 3 (local.get $four)))))))
        (local.set $out (i32.add (local.get $out) (i32.const 8)))
        (br $steps))))

  ;; Adds the energies of two channels, and the sum of their products, in double precision, to the three numbers that stand in $out.
  (func (export "pair") (param $left i32) (param $right i32) (param $count i32) (param $out i32)
    (local $end i32) (local $twos i32) (local $l v128) (local $r v128) (local $ll v128) (local $rr v128) (local $lr v128) (local $one f64) (local $other f64)
    (local.set $end (i32.add (local.get $left) (i32.shl (local.get $count) (i32.const 2))))
    (local.set $twos (i32.sub (local.get $end) (i32.const 7)))
    (block $rest
      (loop $two
        (br_if $rest (i32.ge_s (local.get $left) (local.get $twos)))
        (local.set $l (f64x2.promote_low_f32x4 (v128.load64_zero align=4 (local.get $left))))
        (local.set $r (f64x2.promote_low_f32x4 (v128.load64_zero align=4 (local.get $right))))
        (local.set $ll (f64x2.add (local.get $ll) (f64x2.mul (local.get $l) (local.get $l))))
        (local.set $rr (f64x2.add (local.get $rr) (f64x2.mul (local.get $r) (local.get $r))))
        (local.set $lr (f64x2.add (local.get $lr) (f64x2.mul (local.get $l) (local.get $r))))
        (local.set $left (i32.add (local.get $left) (i32.const 8)))
        (local.set $right (i32.add (local.get $right) (i32.const 8)))
        (br $two)))
    (if (i32.lt_u (local.get $left) (local.get $end)) (then
      (local.set $one (f64.promote_f32 (f32.load (local.get $left))))
      (local.set $other (f64.promote_f32 (f32.load (local.get $right))))))
    (f64.store (local.get $out) (f64.add (f64.load (local.get $out)) (f64.add (f64.mul (local.get $one) (local.get $one))
      (f64.add (f64x2.extract_lane 0 (local.get $ll)) (f64x2.extract_lane 1 (local.get $ll))))))
    (f64.store offset=8 (local.get $out) (f64.add (f64.load offset=8 (local.get $out)) (f64.add (f64.mul (local.get $other) (local.get $other))
      (f64.add (f64x2.extract_lane 0 (local.get $rr)) (f64x2.extract_lane 1 (local.get $rr))))))
    (f64.store offset=16 (local.get $out) (f64.add (f64.load offset=16 (local.get $out)) (f64.add (f64.mul (local.get $one) (local.get $other))
      (f64.add (f64x2.extract_lane 0 (local.get $lr)) (f64x2.extract_lane 1 (local.get $lr)))))))

  ;; The mean of two channels, in place of the first. Halved first: the sum of what a damaged file holds may be more than there is.
  (func (export "means") (param $left i32) (param $right i32) (param $count i32)
    (local $end i32) (local $fours i32) (local $half v128)
    (local.set $half (f32x4.splat (f32.const 0.5)))
    (local.set $end (i32.add (local.get $left) (i32.shl (local.get $count) (i32.const 2))))
    (local.set $fours (i32.sub (local.get $end) (i32.const 15)))
    (block $rest
      (loop $four
        (br_if $rest (i32.ge_s (local.get $left) (local.get $fours)))
        (v128.store align=4 (local.get $left) (f32x4.add
          (f32x4.mul (local.get $half) (v128.load align=4 (local.get $left)))
          (f32x4.mul (local.get $half) (v128.load align=4 (local.get $right)))))
        (local.set $left (i32.add (local.get $left) (i32.const 16)))
        (local.set $right (i32.add (local.get $right) (i32.const 16)))
        (br $four)))
    (block $full
      (loop $one
        (br_if $full (i32.ge_u (local.get $left) (local.get $end)))
        (f32.store (local.get $left) (f32.add (f32.mul (f32.const 0.5) (f32.load (local.get $left))) (f32.mul (f32.const 0.5) (f32.load (local.get $right)))))
        (local.set $left (i32.add (local.get $left) (i32.const 4)))
        (local.set $right (i32.add (local.get $right) (i32.const 4)))
        (br $one)))))
