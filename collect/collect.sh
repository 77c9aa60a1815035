#!/bin/sh
# Collects what this system knows of its memory into one JSON file for the repair bench.
# Nothing is installed, and nothing is sent unless you name the bench's link. Not collected: names of people, programs or files, the
# machine's own serial numbers. Serial numbers of the modules only if you leave them in.
#
#   sh collect.sh [--out FILE] [--watch MINUTES] [--to LINK] [--without-serials] [--yes]
#
# --watch notes the most memory in use while the customer's programs are open.
# --to sends the file to the bench whose link it is, as in --to http://192.168.1.20:4880/#abcd-efgh-jkmn
# Run it as root (sudo) for the firmware table and the modules' own images; without, the rest is told.
set -u
LC_ALL=C
export LC_ALL

root=${COLLECT_ROOT:-} # another place for /sys and /proc
out=collected.json
watch=0
to=
serials=kept
asks=yes
while [ $# -gt 0 ]; do
  case $1 in
    --out | --watch | --to)
      [ $# -gt 1 ] || { echo "$1 needs a value" >&2; exit 2; }
      case $1 in --out) out=$2 ;; --watch) watch=$2 ;; --to) to=$2 ;; esac
      shift 2 ;;
    --without-serials) serials='left out'; shift ;;
    --yes) asks=no; shift ;;
    *) echo "usage: sh collect.sh [--out FILE] [--watch MINUTES] [--to LINK] [--without-serials] [--yes]" >&2; exit 2 ;;
  esac
done
case $to in '' | http*//*'#'*) ;; *) echo "--to takes the link the bench shows, with # and its code" >&2; exit 2 ;; esac
case $watch in '' | *[!0-9]*) echo "--watch takes whole minutes, as in --watch 10" >&2; exit 2 ;; esac

work=$(mktemp -d) || exit 1
trap 'rm -rf "$work"' EXIT
trap 'exit 130' INT TERM
: >"$work/parts"
: >"$work/facts"
: >"$work/notes"

escaped() { printf '%s' "$1" | tr -d '\000-\037' | sed 's/\\/\\\\/g; s/"/\\"/g'; }

# The checksum of standard input; a hyphen where the system has no program for it.
digest() {
  if command -v sha256sum >/dev/null 2>&1; then sha256sum
  elif command -v shasum >/dev/null 2>&1; then shasum -a 256
  elif command -v openssl >/dev/null 2>&1; then openssl dgst -sha256 -r
  else cat >/dev/null; echo -; fi | cut -d ' ' -f 1
}

note() { printf '%s\t%s\n' "$1" "$2" >>"$work/notes"; } # what, why
fact() { printf '%s\t%s\t%s\t%s\n' "$1" "$2" "$3" "$4" >>"$work/facts"; } # name, value, unit, from
part() { # kind, from, file, hex or text
  printf '%s\t%s\t%s\t%s\t%s\n' "$1" "$2" "$(digest <"$3")" "$3" "$4" >>"$work/parts"
}

# Of the firmware table only what is about system, board, processors and memory; serial numbers,
# tags and the machine's identifier are blanked.
smbios() {
  od -An -v -tu1 "$1" | awk -v serials="$serials" '
    { for (i = 1; i <= NF; i++) b[n++] = $i }
    function blank(at,  index_, q, k) {
      if (at >= p + len || b[at] == 0) return
      index_ = b[at]; b[at] = 0
      q = p + len
      for (k = 1; k < index_; k++) { while (q < end && b[q] != 0) q++; q++ }
      while (q < end && b[q] != 0) { b[q] = 120; q++ }
    }
    END {
      p = 0
      while (p + 4 <= n) {
        type = b[p]; len = b[p + 1]
        if (len < 4 || p + len > n) break
        end = p + len
        while (end + 1 < n && !(b[end] == 0 && b[end + 1] == 0)) end++
        end += 2
        if (end > n) break
        if (type == 1) { blank(p + 7); for (k = 8; k < 24 && k < len; k++) b[p + k] = 0 }
        if (type == 2) { blank(p + 7); blank(p + 8) }
        if (type == 4) { blank(p + 32); blank(p + 33); blank(p + 34) }
        if (type == 17) { blank(p + 25); if (serials != "kept") blank(p + 24) }
        if (type == 1 || type == 2 || type == 4 || type == 16 || type == 17 || type == 19 || type == 20 || type == 127)
          for (k = p; k < end; k++) printf "%02x", b[k]
        if (type == 127) break
        p = end
      }
    }'
}

# The image of a module, its serial number blanked where it shall be; nothing where it is no such image.
image() {
  od -An -v -tu1 "$1" 2>/dev/null | awk -v serials="$serials" '
    { for (i = 1; i <= NF; i++) b[n++] = $i }
    END {
      at = -1
      if (b[2] == 8) at = 95
      if (b[2] == 11) at = 122
      if (b[2] == 12 || b[2] == 14 || b[2] == 16 || b[2] == 17) at = 325
      if (b[2] >= 18 && b[2] <= 21) at = 517
      if (n < 128 || at < 0) exit
      if (serials != "kept") {
        # The checksum of some third-generation images covers the serial number.
        if (b[2] == 11 && b[0] < 128) { printf "covered"; exit }
        for (k = at; k < at + 4 && k < n; k++) b[k] = 0
      }
      for (k = 0; k < n; k++) printf "%02x", b[k]
    }'
}

# Looks every five seconds for as long as was asked; $peak is the most that "$1" printed.
watched() {
  echo "Watching for $watch min: open what is usually open at the same time." >&2
  left=$((watch * 12))
  while [ "$left" -gt 0 ]; do
    sleep "${COLLECT_STEP:-5}"
    now=$("$1")
    [ "$now" -gt "$peak" ] && peak=$now
    left=$((left - 1))
  done
  fact memory-peak "$peak" KiB "watching $1"
  fact watched-for "$((watch * 60))" s clock
}

# What the system's own report command prints of the memory, serial numbers blanked where they shall be.
report() {
  system_profiler SPMemoryDataType -json >"$work/printed" 2>/dev/null
  if [ "$serials" = kept ]; then cat "$work/printed"
  else sed 's/\("dimm_serial_number" *: *\)"[^"]*"/\1""/' "$work/printed"; fi >"$work/report"
  if [ -s "$work/report" ]; then part hardware-report 'system_profiler SPMemoryDataType' "$work/report" text
  else note 'hardware report' 'the report command printed nothing'; fi
  note 'images of the modules' 'this system shows none'

  memsize=$(sysctl -n hw.memsize 2>/dev/null)
  [ -n "$memsize" ] && fact memory-visible "$((memsize / 1024))" KiB 'sysctl hw.memsize'
  now=$(in_use)
  peak=$now
  before=$(brought_back)
  if [ "$watch" -gt 0 ] && [ -n "$now" ]; then
    watched in_use
    after=$(brought_back)
    [ -n "$before" ] && [ -n "$after" ] && fact paged-in "$((after - before))" KiB vm_stat
  fi
  [ -n "$now" ] && fact memory-in-use "$now" KiB vm_stat
  swap=$(sysctl -n vm.swapusage 2>/dev/null | sed -n 's/.*used = \([0-9]*\)[.0-9]*M.*/\1/p')
  [ -n "$swap" ] && fact page-file-in-use "$((swap * 1024))" KiB 'sysctl vm.swapusage'
  source=mains
  pmset -g batt 2>/dev/null | grep -q "'Battery Power'" && source=battery
  fact power-source "$source" word 'pmset -g batt'
  [ "$(pmset -g 2>/dev/null | awk '$1 == "lowpowermode" { print $2 }')" = 1 ] && fact power-mode saving word pmset
}
# KiB in use: what programs hold, what the system holds fast, and what was squeezed together.
in_use() {
  vm_stat 2>/dev/null | awk '
    /page size of/ { for (i = 1; i < NF; i++) if ($i == "of") size = $(i + 1) }
    /^(Anonymous pages|Pages wired down|Pages occupied by compressor):/ { sum += $NF }
    END { if (size > 0) printf "%d", sum * size / 1024 }'
}
brought_back() {
  vm_stat 2>/dev/null | awk '
    /page size of/ { for (i = 1; i < NF; i++) if ($i == "of") size = $(i + 1) }
    /^Swapins:/ { printf "%d", $NF * size / 1024 }'
}

unix() {
  table=$root/sys/firmware/dmi/tables/DMI
  if [ -r "$table" ]; then
    smbios "$table" >"$work/table"
    if [ -s "$work/table" ]; then part smbios-table /sys/firmware/dmi/tables/DMI "$work/table" hex
    else note 'firmware table' 'it holds no whole structure'; fi
  elif [ -e "$table" ]; then note 'firmware table' 'only root may read it: run again with sudo'
  else note 'firmware table' 'this system does not expose one'; fi

  count=0
  for file in "$root"/sys/bus/i2c/devices/*/eeprom; do
    [ -e "$file" ] || continue
    place=${file#"$root"}
    if [ ! -r "$file" ]; then note "$place" 'only root may read it: run again with sudo'; continue; fi
    image "$file" >"$work/image$count"
    if [ "$(cat "$work/image$count")" = covered ]; then
      note "$place" 'its checksum covers the serial number: leave serial numbers in to get it'
    elif [ -s "$work/image$count" ]; then part spd-image "$place" "$work/image$count" hex; fi
    count=$((count + 1))
  done
  [ "$count" -gt 0 ] || note 'images of the modules' 'no driver of this system shows them'

  meminfo=$root/proc/meminfo
  kib() { awk -v name="$1:" '$1 == name { print $2; exit }' "$meminfo"; }
  paged() { awk '$1 == "pswpin" { print $2; exit }' "$root/proc/vmstat" 2>/dev/null; }
  used() {
    total=$(kib MemTotal); free=$(kib MemAvailable)
    [ -n "$total" ] && [ -n "$free" ] && echo $((total - free))
  }
  if [ -r "$meminfo" ]; then
    total=$(kib MemTotal)
    [ -n "$total" ] && fact memory-visible "$total" KiB /proc/meminfo
    now=$(used)
    peak=$now
    before=$(paged)
    if [ "$watch" -gt 0 ] && [ -n "$now" ]; then
      watched used
      after=$(paged)
      [ -n "$before" ] && [ -n "$after" ] &&
        fact paged-in "$(((after - before) * $(getconf PAGESIZE) / 1024))" KiB /proc/vmstat
    fi
    [ -n "$now" ] && fact memory-in-use "$now" KiB /proc/meminfo
    swap=$(kib SwapTotal); unused=$(kib SwapFree)
    [ -n "$swap" ] && [ -n "$unused" ] && fact page-file-in-use "$((swap - unused))" KiB /proc/meminfo
  else note 'memory in use' 'there is no /proc/meminfo'; fi

  source=mains
  for supply in "$root"/sys/class/power_supply/*; do
    [ "$(cat "$supply/type" 2>/dev/null)" = Mains ] || continue
    [ "$(cat "$supply/online" 2>/dev/null)" = 0 ] && source=battery
  done
  fact power-source "$source" word /sys/class/power_supply

  policy=$root/sys/devices/system/cpu/cpu0/cpufreq
  for file in "$root/sys/firmware/acpi/platform_profile" "$policy/energy_performance_preference" "$policy/scaling_governor"; do
    mode=$(cat "$file" 2>/dev/null) || continue
    [ -n "$mode" ] || continue
    fact power-mode "$mode" word "${file#"$root"}"
    break
  done

  device=$(awk '$2 == "/" { name = $1 } END { print name }' "$root/proc/mounts" 2>/dev/null)
  if [ -n "$device" ]; then
    [ -z "$root" ] && device=$(readlink -f "$device")
    block=$root/sys/class/block/$(basename "$device")
    for file in "$block/queue/rotational" "$block/../queue/rotational"; do
      [ -r "$file" ] || continue
      if [ "$(cat "$file")" = 1 ]; then kind=spinning; else kind='solid state'; fi
      fact drive-kind "$kind" word /sys/class/block
      break
    done
  fi

  for file in "$root"/sys/class/drm/card*/device/mem_info_vram_total; do
    [ -r "$file" ] || continue
    fact graphics-share "$(($(cat "$file") / 1024))" KiB "${file#"$root"}"
    break
  done
}

shell=unix
command -v system_profiler >/dev/null 2>&1 && [ -z "$root" ] && shell=report
if [ "$shell" = report ]; then report; else unix; fi
case $(uname -m) in *64*) bits=64 ;; *) bits=32 ;; esac
fact system-bits "$bits" bit 'uname -m'

{
  echo
  echo "This will be in $out:"
  while IFS="$(printf '\t')" read -r kind from sum file how; do
    size=$(wc -c <"$file")
    [ "$how" = hex ] && size=$((size / 2))
    echo "  $kind from $from, $((size)) bytes"
  done <"$work/parts"
  while IFS="$(printf '\t')" read -r name value unit from; do
    echo "  $name: $value $unit"
  done <"$work/facts"
  while IFS="$(printf '\t')" read -r what why; do
    echo "  not read: $what ($why)"
  done <"$work/notes"
  echo "  serial numbers of the modules: $serials"
} >&2
if [ "$asks" = yes ]; then
  printf 'Write it? [y/n] ' >&2
  read -r answer </dev/tty || answer=n
  case $answer in y | Y | yes) ;; *) echo 'Nothing was written.' >&2; exit 0 ;; esac
fi

{
  printf '{\n  "format": "tembrix-collected",\n  "version": 1,\n  "shell": "%s",\n' "$shell"
  printf '  "collectedAt": "%s",\n  "serials": "%s",\n  "parts": [' "$(date -u +%Y-%m-%dT%H:%M:%SZ)" "$serials"
  comma=
  while IFS="$(printf '\t')" read -r kind from sum file how; do
    printf '%s\n    { "kind": "%s", "from": "%s", "sha256": "%s", "%s": "' "$comma" "$kind" "$(escaped "$from")" "$sum" "$how"
    if [ "$how" = hex ]; then cat "$file"
    else sed 's/\\/\\\\/g; s/"/\\"/g; s/	/\\t/g; s/$/\\n/' "$file" | tr -d '\n'; fi
    printf '" }'
    comma=,
  done <"$work/parts"
  printf '\n  ],\n  "facts": ['
  comma=
  while IFS="$(printf '\t')" read -r name value unit from; do
    printf '%s\n    { "name": "%s", "value": "%s", "unit": "%s", "from": "%s" }' "$comma" "$name" "$(escaped "$value")" "$unit" "$(escaped "$from")"
    comma=,
  done <"$work/facts"
  printf '\n  ],\n  "factsSha256": "%s",\n  "notRead": [' "$(awk -F '\t' '{ print $1 "=" $2 }' "$work/facts" | digest)"
  comma=
  while IFS="$(printf '\t')" read -r what why; do
    printf '%s\n    { "what": "%s", "why": "%s" }' "$comma" "$(escaped "$what")" "$(escaped "$why")"
    comma=,
  done <"$work/notes"
  printf '\n  ]\n}\n'
} >"$work/out"
# In one piece or not at all.
mv "$work/out" "$out" || { echo "Cannot write $out: choose another place with --out." >&2; exit 1; }
echo "Written: $out." >&2
if [ -z "$to" ]; then
  echo 'Drop it on New job or on Inspect.' >&2
  exit 0
fi
base=${to%%#*}
answer=$(curl -sS --max-time 60 -H "Authorization: Bearer ${to##*#}" -H 'Content-Type: application/octet-stream' \
  --data-binary "@$out" "${base%/}/collected" 2>&1)
case $answer in
  '{"ok":true}') echo 'It is at the bench.' >&2 ;;
  *)
    echo "It could not be sent: $answer" >&2
    echo "Carry $out to the bench instead, on a stick for one." >&2
    exit 1 ;;
esac
