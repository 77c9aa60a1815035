;; The measuring kernels. Each walks its range once and is called again and again by the worker,
;; which keeps the time. Ranges are multiples of 256 bytes, addresses of 64. Loads of a loop do not
;; depend on one another except in the chases, where that is the point.
(module
  (memory (export "memory") 1)

  ;; Sequential read: 256 bytes a turn into four sums, so that no sum is waited for.
  (func (export "read") (param $at i32) (param $bytes i32) (result i32)
    (local $end i32)
    (local $a v128) (local $b v128) (local $c v128) (local $d v128)
    (local.set $end (i32.add (local.get $at) (local.get $bytes)))
    (loop $turn
      (local.set $a (v128.xor (local.get $a) (v128.load (local.get $at))))
      (local.set $b (v128.xor (local.get $b) (v128.load offset=16 (local.get $at))))
      (local.set $c (v128.xor (local.get $c) (v128.load offset=32 (local.get $at))))
      (local.set $d (v128.xor (local.get $d) (v128.load offset=48 (local.get $at))))
      (local.set $a (v128.xor (local.get $a) (v128.load offset=64 (local.get $at))))
      (local.set $b (v128.xor (local.get $b) (v128.load offset=80 (local.get $at))))
      (local.set $c (v128.xor (local.get $c) (v128.load offset=96 (local.get $at))))
      (local.set $d (v128.xor (local.get $d) (v128.load offset=112 (local.get $at))))
      (local.set $a (v128.xor (local.get $a) (v128.load offset=128 (local.get $at))))
      (local.set $b (v128.xor (local.get $b) (v128.load offset=144 (local.get $at))))
      (local.set $c (v128.xor (local.get $c) (v128.load offset=160 (local.get $at))))
      (local.set $d (v128.xor (local.get $d) (v128.load offset=176 (local.get $at))))
      (local.set $a (v128.xor (local.get $a) (v128.load offset=192 (local.get $at))))
      (local.set $b (v128.xor (local.get $b) (v128.load offset=208 (local.get $at))))
      (local.set $c (v128.xor (local.get $c) (v128.load offset=224 (local.get $at))))
      (local.set $d (v128.xor (local.get $d) (v128.load offset=240 (local.get $at))))
      (br_if $turn
        (i32.lt_u (local.tee $at (i32.add (local.get $at) (i32.const 256))) (local.get $end))))
    ;; The sum is handed out, or the loop could be dropped as useless.
    (i32x4.extract_lane 0
      (v128.xor (v128.xor (local.get $a) (local.get $b)) (v128.xor (local.get $c) (local.get $d)))))

  ;; Copy: $to[i] = $from[i].
  (func (export "copy") (param $to i32) (param $from i32) (param $bytes i32)
    (local $end i32)
    (local.set $end (i32.add (local.get $from) (local.get $bytes)))
    (loop $turn
      (v128.store (local.get $to) (v128.load (local.get $from)))
      (v128.store offset=16 (local.get $to) (v128.load offset=16 (local.get $from)))
      (v128.store offset=32 (local.get $to) (v128.load offset=32 (local.get $from)))
      (v128.store offset=48 (local.get $to) (v128.load offset=48 (local.get $from)))
      (v128.store offset=64 (local.get $to) (v128.load offset=64 (local.get $from)))
      (v128.store offset=80 (local.get $to) (v128.load offset=80 (local.get $from)))
      (v128.store offset=96 (local.get $to) (v128.load offset=96 (local.get $from)))
      (v128.store offset=112 (local.get $to) (v128.load offset=112 (local.get $from)))
      (local.set $to (i32.add (local.get $to) (i32.const 128)))
      (br_if $turn
        (i32.lt_u (local.tee $from (i32.add (local.get $from) (i32.const 128))) (local.get $end)))))

  ;; Multiply-add: $a[i] = $b[i] + $s * $c[i], 64-bit floats.
  (func (export "multiplyAdd")
    (param $a i32) (param $b i32) (param $c i32) (param $s f64) (param $bytes i32)
    (local $end i32) (local $factor v128)
    (local.set $factor (f64x2.splat (local.get $s)))
    (local.set $end (i32.add (local.get $a) (local.get $bytes)))
    (loop $turn
      (v128.store (local.get $a)
        (f64x2.add (v128.load (local.get $b))
          (f64x2.mul (local.get $factor) (v128.load (local.get $c)))))
      (v128.store offset=16 (local.get $a)
        (f64x2.add (v128.load offset=16 (local.get $b))
          (f64x2.mul (local.get $factor) (v128.load offset=16 (local.get $c)))))
      (v128.store offset=32 (local.get $a)
        (f64x2.add (v128.load offset=32 (local.get $b))
          (f64x2.mul (local.get $factor) (v128.load offset=32 (local.get $c)))))
      (v128.store offset=48 (local.get $a)
        (f64x2.add (v128.load offset=48 (local.get $b))
          (f64x2.mul (local.get $factor) (v128.load offset=48 (local.get $c)))))
      (local.set $b (i32.add (local.get $b) (i32.const 64)))
      (local.set $c (i32.add (local.get $c) (i32.const 64)))
      (br_if $turn
        (i32.lt_u (local.tee $a (i32.add (local.get $a) (i32.const 64))) (local.get $end)))))

  ;; Dependent chase: each line holds the address of the next. $steps is a multiple of 8.
  (func (export "chase") (param $at i32) (param $steps i32) (result i32)
    (loop $turn
      (local.set $at (i32.load (local.get $at)))
      (local.set $at (i32.load (local.get $at)))
      (local.set $at (i32.load (local.get $at)))
      (local.set $at (i32.load (local.get $at)))
      (local.set $at (i32.load (local.get $at)))
      (local.set $at (i32.load (local.get $at)))
      (local.set $at (i32.load (local.get $at)))
      (local.set $at (i32.load (local.get $at)))
      (br_if $turn
        (local.tee $steps (i32.sub (local.get $steps) (i32.const 8)))))
    (local.get $at))

  ;; Random 64-byte reads in four chains at once: each step reads four whole lines.
  (func (export "lines4")
    (param $p i32) (param $q i32) (param $r i32) (param $s i32) (param $steps i32) (result i32)
    (local $sum v128)
    (loop $turn
      (local.set $sum (v128.xor (local.get $sum) (call $line (local.get $p))))
      (local.set $sum (v128.xor (local.get $sum) (call $line (local.get $q))))
      (local.set $sum (v128.xor (local.get $sum) (call $line (local.get $r))))
      (local.set $sum (v128.xor (local.get $sum) (call $line (local.get $s))))
      (local.set $p (i32.load (local.get $p)))
      (local.set $q (i32.load (local.get $q)))
      (local.set $r (i32.load (local.get $r)))
      (local.set $s (i32.load (local.get $s)))
      (br_if $turn (local.tee $steps (i32.sub (local.get $steps) (i32.const 1)))))
    (i32x4.extract_lane 1 (local.get $sum)))

  ;; The same in eight chains.
  (func (export "lines8")
    (param $p i32) (param $q i32) (param $r i32) (param $s i32)
    (param $t i32) (param $u i32) (param $v i32) (param $w i32) (param $steps i32) (result i32)
    (local $sum v128)
    (loop $turn
      (local.set $sum (v128.xor (local.get $sum) (call $line (local.get $p))))
      (local.set $sum (v128.xor (local.get $sum) (call $line (local.get $q))))
      (local.set $sum (v128.xor (local.get $sum) (call $line (local.get $r))))
      (local.set $sum (v128.xor (local.get $sum) (call $line (local.get $s))))
      (local.set $sum (v128.xor (local.get $sum) (call $line (local.get $t))))
      (local.set $sum (v128.xor (local.get $sum) (call $line (local.get $u))))
      (local.set $sum (v128.xor (local.get $sum) (call $line (local.get $v))))
      (local.set $sum (v128.xor (local.get $sum) (call $line (local.get $w))))
      (local.set $p (i32.load (local.get $p)))
      (local.set $q (i32.load (local.get $q)))
      (local.set $r (i32.load (local.get $r)))
      (local.set $s (i32.load (local.get $s)))
      (local.set $t (i32.load (local.get $t)))
      (local.set $u (i32.load (local.get $u)))
      (local.set $v (i32.load (local.get $v)))
      (local.set $w (i32.load (local.get $w)))
      (br_if $turn (local.tee $steps (i32.sub (local.get $steps) (i32.const 1)))))
    (i32x4.extract_lane 1 (local.get $sum)))

  (func $line (param $at i32) (result v128)
    (v128.xor
      (v128.xor (v128.load (local.get $at)) (v128.load offset=16 (local.get $at)))
      (v128.xor (v128.load offset=32 (local.get $at)) (v128.load offset=48 (local.get $at)))))

  ;; What the pattern check writes at an address: (address × $by) xor $flip, in 32-bit words.
  ;; With $by 0 every word is $flip; with an odd $by every word differs, so that address lines
  ;; gone wrong show too.
  (func $word (param $at i32) (param $by i32) (param $flip i32) (result v128)
    (v128.xor
      (i32x4.mul
        (i32x4.add (i32x4.splat (local.get $at)) (v128.const i32x4 0 4 8 12))
        (i32x4.splat (local.get $by)))
      (i32x4.splat (local.get $flip))))

  (func (export "fill") (param $at i32) (param $bytes i32) (param $by i32) (param $flip i32)
    (local $end i32)
    (local.set $end (i32.add (local.get $at) (local.get $bytes)))
    (loop $turn
      (v128.store (local.get $at)
        (call $word (local.get $at) (local.get $by) (local.get $flip)))
      (br_if $turn
        (i32.lt_u (local.tee $at (i32.add (local.get $at) (i32.const 16))) (local.get $end)))))

  ;; Counts 16-byte words that do not hold what `fill` wrote.
  (func (export "verify")
    (param $at i32) (param $bytes i32) (param $by i32) (param $flip i32) (result i32)
    (local $end i32) (local $wrong i32)
    (local.set $end (i32.add (local.get $at) (local.get $bytes)))
    (loop $turn
      (local.set $wrong
        (i32.add (local.get $wrong)
          (v128.any_true
            (v128.xor (v128.load (local.get $at))
              (call $word (local.get $at) (local.get $by) (local.get $flip))))))
      (br_if $turn
        (i32.lt_u (local.tee $at (i32.add (local.get $at) (i32.const 16))) (local.get $end))))
    (local.get $wrong))
)
