;; Passes over sets of bits, sixteen bytes at a time (WebAssembly SIMD). Every address is in bytes, every length a multiple of
;; sixteen. What is counted is written to the beginning of the memory, four bytes a count.
(module
  (memory (export "memory") 1)

  (func $total (param $v v128) (result i32)
    (i32.add
      (i32.add (i32x4.extract_lane 0 (local.get $v)) (i32x4.extract_lane 1 (local.get $v)))
      (i32.add (i32x4.extract_lane 2 (local.get $v)) (i32x4.extract_lane 3 (local.get $v)))))

  ;; Who of b stays where p (turned round: what p has not) lets them: next. Counted: who stays, who of those that go is in u,
  ;; who of those that stay is in s.
  (func (export "pass") (param $b i32) (param $p i32) (param $u i32) (param $s i32) (param $next i32) (param $length i32) (param $turn i32)
    (local $i i32) (local $own v128) (local $stay v128) (local $mask v128)
    (local $stays v128) (local $unknown v128) (local $stayed v128)
    (local.set $mask (i32x4.splat (local.get $turn)))
    (block $done (loop $next16
      (br_if $done (i32.ge_u (local.get $i) (local.get $length)))
      (local.set $own (v128.load (i32.add (local.get $b) (local.get $i))))
      (local.set $stay (v128.and (local.get $own) (v128.xor (v128.load (i32.add (local.get $p) (local.get $i))) (local.get $mask))))
      (v128.store (i32.add (local.get $next) (local.get $i)) (local.get $stay))
      (local.set $stays (i32x4.add (local.get $stays) (i32x4.extadd_pairwise_i16x8_u (i16x8.extadd_pairwise_i8x16_u (i8x16.popcnt (local.get $stay))))))
      (local.set $unknown (i32x4.add (local.get $unknown) (i32x4.extadd_pairwise_i16x8_u (i16x8.extadd_pairwise_i8x16_u (i8x16.popcnt
        (v128.and (v128.andnot (local.get $own) (local.get $stay)) (v128.load (i32.add (local.get $u) (local.get $i)))))))))
      (local.set $stayed (i32x4.add (local.get $stayed) (i32x4.extadd_pairwise_i16x8_u (i16x8.extadd_pairwise_i8x16_u (i8x16.popcnt
        (v128.and (local.get $stay) (v128.load (i32.add (local.get $s) (local.get $i)))))))))
      (local.set $i (i32.add (local.get $i) (i32.const 16)))
      (br $next16)))
    (i32.store (i32.const 0) (call $total (local.get $stays)))
    (i32.store (i32.const 4) (call $total (local.get $unknown)))
    (i32.store (i32.const 8) (call $total (local.get $stayed))))

  ;; b with t taken in: next. Counted: who of t was not in b, and who of those was seen before, in w.
  (func (export "take") (param $b i32) (param $t i32) (param $w i32) (param $next i32) (param $length i32)
    (local $i i32) (local $own v128) (local $fresh v128) (local $taken v128) (local $back v128)
    (block $done (loop $next16
      (br_if $done (i32.ge_u (local.get $i) (local.get $length)))
      (local.set $own (v128.load (i32.add (local.get $b) (local.get $i))))
      (local.set $fresh (v128.andnot (v128.load (i32.add (local.get $t) (local.get $i))) (local.get $own)))
      (v128.store (i32.add (local.get $next) (local.get $i)) (v128.or (local.get $own) (local.get $fresh)))
      (local.set $taken (i32x4.add (local.get $taken) (i32x4.extadd_pairwise_i16x8_u (i16x8.extadd_pairwise_i8x16_u (i8x16.popcnt (local.get $fresh))))))
      (local.set $back (i32x4.add (local.get $back) (i32x4.extadd_pairwise_i16x8_u (i16x8.extadd_pairwise_i8x16_u (i8x16.popcnt
        (v128.and (local.get $fresh) (v128.load (i32.add (local.get $w) (local.get $i)))))))))
      (local.set $i (i32.add (local.get $i) (i32.const 16)))
      (br $next16)))
    (i32.store (i32.const 0) (call $total (local.get $taken)))
    (i32.store (i32.const 4) (call $total (local.get $back))))

  ;; Steps composed so far are B -> (B and keep) or take. Counted: whom they leave of b. Then the step of p (or turned round) and t is put before them.
  (func (export "compose") (param $b i32) (param $keep i32) (param $take i32) (param $p i32) (param $t i32) (param $length i32) (param $turn i32)
    (local $i i32) (local $k v128) (local $in v128) (local $mask v128) (local $left v128)
    (local.set $mask (i32x4.splat (local.get $turn)))
    (block $done (loop $next16
      (br_if $done (i32.ge_u (local.get $i) (local.get $length)))
      (local.set $k (v128.load (i32.add (local.get $keep) (local.get $i))))
      (local.set $in (v128.load (i32.add (local.get $take) (local.get $i))))
      (local.set $left (i32x4.add (local.get $left) (i32x4.extadd_pairwise_i16x8_u (i16x8.extadd_pairwise_i8x16_u (i8x16.popcnt
        (v128.or (v128.and (v128.load (i32.add (local.get $b) (local.get $i))) (local.get $k)) (local.get $in)))))))
      (v128.store (i32.add (local.get $take) (local.get $i)) (v128.or (local.get $in) (v128.and (v128.load (i32.add (local.get $t) (local.get $i))) (local.get $k))))
      (v128.store (i32.add (local.get $keep) (local.get $i)) (v128.and (local.get $k) (v128.xor (v128.load (i32.add (local.get $p) (local.get $i))) (local.get $mask))))
      (local.set $i (i32.add (local.get $i) (i32.const 16)))
      (br $next16)))
    (i32.store (i32.const 0) (call $total (local.get $left))))

  ;; Counted: who is in both.
  (func (export "both") (param $a i32) (param $b i32) (param $length i32)
    (local $i i32) (local $n v128)
    (block $done (loop $next16
      (br_if $done (i32.ge_u (local.get $i) (local.get $length)))
      (local.set $n (i32x4.add (local.get $n) (i32x4.extadd_pairwise_i16x8_u (i16x8.extadd_pairwise_i8x16_u (i8x16.popcnt
        (v128.and (v128.load (i32.add (local.get $a) (local.get $i))) (v128.load (i32.add (local.get $b) (local.get $i)))))))))
      (local.set $i (i32.add (local.get $i) (i32.const 16)))
      (br $next16)))
    (i32.store (i32.const 0) (call $total (local.get $n)))))
