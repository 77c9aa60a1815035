# Collects what this system knows of its memory into one JSON file for the repair bench.
# Nothing is installed, and nothing is sent unless you name the bench's link. Not collected: names of people, programs or files, the
# machine's own serial numbers. Serial numbers of the modules only if you leave them in.
#
#   .\collect.ps1 [-Out FILE] [-Watch MINUTES] [-To LINK] [-WithoutSerials] [-Yes]
#
# -Watch notes the most memory in use while the customer's programs are open.
# -To sends the file to the bench whose link it is, as in -To 'http://192.168.1.20:4880/#abcd-efgh-jkmn'
param(
  [string] $Out = 'collected.json',
  [ValidateRange(0, 600)] [int] $Watch = 0,
  [ValidatePattern('^(https?://.+#.+)?$')] [string] $To = '',
  [switch] $WithoutSerials,
  [switch] $Yes
)
$ErrorActionPreference = 'Stop'
$parts = New-Object System.Collections.ArrayList
$facts = New-Object System.Collections.ArrayList
$notes = New-Object System.Collections.ArrayList

function Get-Digest([string] $Text) {
  $sha = [System.Security.Cryptography.SHA256]::Create()
  $bytes = $sha.ComputeHash([System.Text.Encoding]::UTF8.GetBytes($Text))
  -join ($bytes | ForEach-Object { $_.ToString('x2') })
}
function Add-Note([string] $What, [string] $Why) {
  [void] $notes.Add([ordered] @{ what = $What; why = $Why })
}
function Add-Fact([string] $Name, [string] $Value, [string] $Unit, [string] $From) {
  [void] $facts.Add([ordered] @{ name = $Name; value = $Value; unit = $Unit; from = $From })
}
function Add-Part([string] $Kind, [string] $From, [string] $How, [string] $Content) {
  [void] $parts.Add([ordered] @{ kind = $Kind; from = $From; sha256 = (Get-Digest $Content); $How = $Content })
}

# Sets a string of a structure to none and crosses out its letters.
function Clear-Text([byte[]] $Table, [int] $Start, [int] $Length, [int] $End, [int] $Offset) {
  if ($Offset -ge $Length -or $Table[$Start + $Offset] -eq 0) { return }
  $index = $Table[$Start + $Offset]
  $Table[$Start + $Offset] = 0
  $at = $Start + $Length
  for ($skip = 1; $skip -lt $index; $skip++) {
    while ($at -lt $End -and $Table[$at] -ne 0) { $at++ }
    $at++
  }
  while ($at -lt $End -and $Table[$at] -ne 0) { $Table[$at] = 120; $at++ }
}

# Of the firmware table only what is about system, board, processors and memory; serial numbers,
# tags and the machine's identifier are blanked.
function Get-Trimmed([byte[]] $Table) {
  $kept = 1, 2, 4, 16, 17, 19, 20, 127
  $hex = New-Object System.Text.StringBuilder
  $start = 0
  while ($start + 4 -le $Table.Length) {
    $type = $Table[$start]
    $length = $Table[$start + 1]
    if ($length -lt 4 -or $start + $length -gt $Table.Length) { break }
    $end = $start + $length
    while ($end + 1 -lt $Table.Length -and -not ($Table[$end] -eq 0 -and $Table[$end + 1] -eq 0)) { $end++ }
    $end += 2
    if ($end -gt $Table.Length) { break }
    $blank = @()
    if ($type -eq 1) {
      $blank = @(7)
      for ($at = 8; $at -lt 24 -and $at -lt $length; $at++) { $Table[$start + $at] = 0 }
    }
    if ($type -eq 2) { $blank = 7, 8 }
    if ($type -eq 4) { $blank = 32, 33, 34 }
    if ($type -eq 17) {
      $blank = @(25)
      if ($WithoutSerials) { $blank = 24, 25 }
    }
    foreach ($offset in $blank) { Clear-Text $Table $start $length $end $offset }
    if ($kept -contains $type) {
      for ($at = $start; $at -lt $end; $at++) { [void] $hex.Append($Table[$at].ToString('x2')) }
    }
    if ($type -eq 127) { break }
    $start = $end
  }
  $hex.ToString()
}

function Get-UsedKib {
  $system = Get-CimInstance CIM_OperatingSystem
  $system.TotalVisibleMemorySize - $system.FreePhysicalMemory
}

try {
  $fields = @('BankLabel', 'Capacity', 'ConfiguredClockSpeed', 'ConfiguredVoltage', 'DataWidth', 'DeviceLocator',
    'FormFactor', 'InterleavePosition', 'Manufacturer', 'MemoryType', 'PartNumber', 'SMBIOSMemoryType',
    'SerialNumber', 'Speed', 'TotalWidth', 'TypeDetail')
  $memory = Get-CimInstance CIM_PhysicalMemory | Select-Object -Property $fields
  if ($WithoutSerials) { $memory | ForEach-Object { $_.SerialNumber = '' } }
  Add-Part 'memory-instances' 'CIM_PhysicalMemory' 'text' (ConvertTo-Json @($memory) -Compress)
} catch { Add-Note 'memory instances' $_.Exception.Message }

try {
  $table = (Get-CimInstance -Namespace root/wmi -ClassName MSSmbios_RawSMBiosTables).SMBiosData
  Add-Part 'smbios-table' 'root/wmi' 'hex' (Get-Trimmed ([byte[]] $table))
} catch { Add-Note 'firmware table' $_.Exception.Message }
Add-Note 'images of the modules' 'this system shows none'

try {
  $system = Get-CimInstance CIM_OperatingSystem
  Add-Fact 'memory-visible' $system.TotalVisibleMemorySize 'KiB' 'CIM_OperatingSystem'
  if ([Environment]::Is64BitOperatingSystem) { $bits = '64' } else { $bits = '32' }
  Add-Fact 'system-bits' $bits 'bit' 'Environment'
  $used = Get-UsedKib
  if ($Watch -gt 0) {
    Write-Host "Watching for $Watch min: open what is usually open at the same time."
    $peak = $used
    for ($left = $Watch * 12; $left -gt 0; $left--) {
      Start-Sleep -Seconds 5
      $used = Get-UsedKib
      if ($used -gt $peak) { $peak = $used }
    }
    Add-Fact 'memory-peak' $peak 'KiB' 'CIM_OperatingSystem'
    Add-Fact 'watched-for' ($Watch * 60) 's' 'clock'
  }
  Add-Fact 'memory-in-use' $used 'KiB' 'CIM_OperatingSystem'
} catch { Add-Note 'memory in use' $_.Exception.Message }

try {
  $paged = (Get-CimInstance Win32_PageFileUsage | Measure-Object -Property CurrentUsage -Sum).Sum
  Add-Fact 'page-file-in-use' ([int64] $paged * 1024) 'KiB' 'page file usage'
} catch { Add-Note 'page file' $_.Exception.Message }

try {
  # 1: running on the pack. A machine without one has no instance.
  $packs = @(Get-CimInstance CIM_Battery | Where-Object { $_.BatteryStatus -eq 1 })
  if ($packs.Count -gt 0) { $source = 'battery' } else { $source = 'mains' }
  Add-Fact 'power-source' $source 'word' 'CIM_Battery'
} catch { Add-Note 'power source' $_.Exception.Message }

try {
  # The identifiers of the plans are the same in every language; their names are not.
  $plan = [string] (powercfg /getactivescheme)
  if ($plan -match 'a1841308-') { $mode = 'saving' } else { $mode = 'balanced or full' }
  Add-Fact 'power-mode' $mode 'word' 'powercfg'
} catch { Add-Note 'power mode' $_.Exception.Message }

try {
  $disk = Get-Partition -DriveLetter $env:SystemDrive[0] | Get-Disk | Get-PhysicalDisk | Select-Object -First 1
  if ($disk.MediaType -eq 'HDD') { Add-Fact 'drive-kind' 'spinning' 'word' 'Get-PhysicalDisk' }
  if ($disk.MediaType -eq 'SSD') { Add-Fact 'drive-kind' 'solid state' 'word' 'Get-PhysicalDisk' }
} catch { Add-Note 'kind of drive' $_.Exception.Message }

if ($WithoutSerials) { $serials = 'left out' } else { $serials = 'kept' }
Write-Host "`nThis will be in ${Out}:"
foreach ($one in $parts) { Write-Host "  $($one.kind) from $($one.from)" }
foreach ($one in $facts) { Write-Host "  $($one.name): $($one.value) $($one.unit)" }
foreach ($one in $notes) { Write-Host "  not read: $($one.what) ($($one.why))" }
Write-Host "  serial numbers of the modules: $serials"
if (-not $Yes) {
  $answer = Read-Host 'Write it? [y/n]'
  if ($answer -notin 'y', 'yes') { Write-Host 'Nothing was written.'; exit 0 }
}

$lines = -join ($facts | ForEach-Object { "$($_.name)=$($_.value)`n" })
$file = [ordered] @{
  format = 'tembrix-collected'; version = 1; shell = 'cim'
  collectedAt = (Get-Date).ToUniversalTime().ToString('yyyy-MM-ddTHH:mm:ssZ'); serials = $serials
  parts = @($parts); facts = @($facts); factsSha256 = (Get-Digest $lines); notRead = @($notes)
}
# In one piece or not at all; without a byte-order mark.
$target = $ExecutionContext.SessionState.Path.GetUnresolvedProviderPathFromPSPath($Out)
[System.IO.File]::WriteAllText("$target.part", (ConvertTo-Json $file -Depth 6))
Move-Item -Force "$target.part" $target
Write-Host "Written: $target."
if ($To -eq '') {
  Write-Host 'Drop it on New job or on Inspect.'
  exit 0
}
$base, $code = $To -split '#', 2
try {
  $headers = @{ Authorization = "Bearer $code" }
  $address = $base.TrimEnd('/') + '/collected'
  [void] (Invoke-RestMethod -Method Post -Uri $address -Headers $headers -InFile $target -ContentType 'application/octet-stream')
  Write-Host 'It is at the bench.'
} catch {
  Write-Host "It could not be sent: $($_.Exception.Message) $($_.ErrorDetails)"
  Write-Host "Carry $target to the bench instead, on a stick for one."
  exit 1
}
