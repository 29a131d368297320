;; The waveform between samples, four taps at a time (WebAssembly fixed-width SIMD). Rows of taps, one for each of three places
;; between two samples, are filled up with zeros to a multiple of four. Addresses are of samples and count in bytes.
(module
  (import "truePeak" "memory" (memory 1))

  ;; The highest absolute value at three places behind the sample at $at. $taps are those of the first place; $reach is how
  ;; far before $at its first sample lies.
  (func $between (param $at i32) (param $taps i32) (param $rowBytes i32) (param $reach i32) (result f32)
    (local $end i32) (local $four v128) (local $a v128) (local $b v128) (local $c v128)
    (local.set $at (i32.sub (local.get $at) (local.get $reach)))
    (local.set $end (i32.add (local.get $taps) (local.get $rowBytes)))
    (loop $tap
      (local.set $four (v128.load align=4 (local.get $at)))
      (local.set $a (f32x4.add (local.get $a) (f32x4.mul (local.get $four) (v128.load (local.get $taps)))))
      (local.set $b (f32x4.add (local.get $b) (f32x4.mul (local.get $four) (v128.load (i32.add (local.get $taps) (local.get $rowBytes))))))
      (local.set $c (f32x4.add (local.get $c) (f32x4.mul (local.get $four) (v128.load (i32.add (local.get $taps) (i32.shl (local.get $rowBytes) (i32.const 1)))))))
      (local.set $at (i32.add (local.get $at) (i32.const 16)))
      (local.set $taps (i32.add (local.get $taps) (i32.const 16)))
      (br_if $tap (i32.lt_u (local.get $taps) (local.get $end))))
    (f32.max (f32.max (call $sum (local.get $a)) (call $sum (local.get $b))) (call $sum (local.get $c))))

  ;; The absolute sum of four.
  (func $sum (param $of v128) (result f32)
    (f32.abs (f32.add
      (f32.add (f32x4.extract_lane 0 (local.get $of)) (f32x4.extract_lane 1 (local.get $of)))
      (f32.add (f32x4.extract_lane 2 (local.get $of)) (f32x4.extract_lane 3 (local.get $of))))))

  ;; The highest absolute value of the waveform beside the samples from $at to before $end, or $peak where that is higher.
  ;; A top between two samples makes the higher of them higher than its other neighbour too, so only such samples are looked
  ;; beside. Nothing is looked for before the sound's $first sample and behind its $last.
  (func (export "highest") (param $at i32) (param $end i32) (param $first i32) (param $last i32) (param $least f32) (param $peak f32)
    (param $taps i32) (param $rowBytes i32) (param $reach i32) (result f32)
    (local $here f32)
    (loop $sample
      (block $next
        (local.set $here (f32.abs (f32.load (local.get $at))))
        (br_if $next (f32.lt (local.get $here) (local.get $least)))
        (br_if $next (f32.lt (local.get $here) (f32.abs (f32.load (i32.sub (local.get $at) (i32.const 4))))))
        (br_if $next (f32.lt (local.get $here) (f32.abs (f32.load offset=4 (local.get $at)))))
        (if (i32.gt_s (local.get $at) (local.get $first)) (then
          (local.set $peak (f32.max (local.get $peak)
            (call $between (i32.sub (local.get $at) (i32.const 4)) (local.get $taps) (local.get $rowBytes) (local.get $reach))))))
        (if (i32.lt_s (local.get $at) (local.get $last)) (then
          (local.set $peak (f32.max (local.get $peak)
            (call $between (local.get $at) (local.get $taps) (local.get $rowBytes) (local.get $reach)))))))
      (local.set $at (i32.add (local.get $at) (i32.const 4)))
      (br_if $sample (i32.lt_u (local.get $at) (local.get $end))))
    (local.get $peak)))
