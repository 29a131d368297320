;; The waveform between samples, four taps at a time (WebAssembly fixed-width SIMD). There are seven rows of taps, one for each eighth
;; between two samples: first the three quarters, then the four odd eighths. Addresses are of samples and count in bytes.
(module
  (import "truePeak" "memory" (memory 1))

  ;; The absolute sum of four.
  (func $sum (param $of v128) (result f32)
    (f32.abs (f32.add
      (f32.add (f32x4.extract_lane 0 (local.get $of)) (f32x4.extract_lane 1 (local.get $of)))
      (f32.add (f32x4.extract_lane 2 (local.get $of)) (f32x4.extract_lane 3 (local.get $of))))))

  ;; The highest absolute value that three rows of taps give, by $bytes of their taps from $taps on and of the samples from $at on.
  (func $three (param $at i32) (param $taps i32) (param $bytes i32) (param $rowBytes i32) (result f32)
    (local $end i32) (local $four v128) (local $a v128) (local $b v128) (local $c v128)
    (local.set $end (i32.add (local.get $taps) (local.get $bytes)))
    (loop $tap
      (local.set $four (v128.load align=4 (local.get $at)))
      (local.set $a (f32x4.add (local.get $a) (f32x4.mul (local.get $four) (v128.load (local.get $taps)))))
      (local.set $b (f32x4.add (local.get $b) (f32x4.mul (local.get $four) (v128.load (i32.add (local.get $taps) (local.get $rowBytes))))))
      (local.set $c (f32x4.add (local.get $c) (f32x4.mul (local.get $four) (v128.load (i32.add (local.get $taps) (i32.shl (local.get $rowBytes) (i32.const 1)))))))
      (local.set $at (i32.add (local.get $at) (i32.const 16)))
      (local.set $taps (i32.add (local.get $taps) (i32.const 16)))
      (br_if $tap (i32.lt_u (local.get $taps) (local.get $end))))
    (f32.max (f32.max (call $sum (local.get $a)) (call $sum (local.get $b))) (call $sum (local.get $c))))

  ;; The highest absolute value of the waveform from the sample at $at to before that at $end, or $peak where that is higher. Behind each
  ;; of them there is another one. $reach is how far before a sample its taps begin; from $middle on, $middleBytes of taps are looked at
  ;; first, and the rest of them can add $slack at most. What is below $part of the peak then is passed over: see truePeak.ts.
  (func (export "highest") (param $at i32) (param $end i32) (param $slack f32) (param $peak f32) (param $part f32)
    (param $taps i32) (param $rowBytes i32) (param $reach i32) (param $middle i32) (param $middleBytes i32) (result f32)
    (local $from i32) (local $samples f32) (local $between f32)
    (loop $sample
      (block $next
        (local.set $from (i32.sub (local.get $at) (local.get $reach)))
        (local.set $samples (f32.max (f32.abs (f32.load (local.get $at))) (f32.abs (f32.load offset=4 (local.get $at)))))
        (local.set $between (call $three (i32.add (local.get $from) (local.get $middle)) (i32.add (local.get $taps) (local.get $middle)) (local.get $middleBytes) (local.get $rowBytes)))
        (br_if $next (f32.lt
          (f32.max (f32.add (local.get $between) (local.get $slack)) (local.get $samples))
          (f32.mul (local.get $part) (local.get $peak))))
        (local.set $between (call $three (local.get $from) (local.get $taps) (local.get $rowBytes) (local.get $rowBytes)))
        (local.set $peak (f32.max (local.get $peak) (local.get $between)))
        (br_if $next (f32.lt (f32.max (local.get $between) (local.get $samples)) (f32.mul (local.get $part) (local.get $peak))))
        (local.set $taps (i32.add (local.get $taps) (i32.mul (local.get $rowBytes) (i32.const 3))))
        (local.set $peak (f32.max (local.get $peak) (call $three (local.get $from) (local.get $taps) (local.get $rowBytes) (local.get $rowBytes))))
        (local.set $taps (i32.add (local.get $taps) (local.get $rowBytes)))
        (local.set $peak (f32.max (local.get $peak) (call $three (local.get $from) (local.get $taps) (local.get $rowBytes) (local.get $rowBytes))))
        (local.set $taps (i32.sub (local.get $taps) (i32.mul (local.get $rowBytes) (i32.const 4)))))
      (local.set $at (i32.add (local.get $at) (i32.const 4)))
      (br_if $sample (i32.lt_u (local.get $at) (local.get $end))))
    (local.get $peak)))
