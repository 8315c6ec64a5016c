# What run and check share: the packages they need, building, and failing with one clear line.
# Sourced by both; $name is the script's own name.

packages=(build-essential cmake ninja-build pkg-config qt6-base-dev qt6-svg-dev qt6-l10n-tools libgl1-mesa-dev libopencv-dev
  libsqlite3-dev libpugixml-dev nlohmann-json3-dev libcli11-dev libpoppler-cpp-dev libsodium-dev libutf8proc-dev libdnnl-dev zlib1g-dev
  libpng-dev libturbojpeg0-dev libtiff-dev libwebp-dev libtesseract-dev tesseract-ocr-eng tesseract-ocr-deu tesseract-ocr-fra tesseract-ocr-spa libsane-dev graphviz libgiac-dev
  libsndfile1-dev libsamplerate0-dev librubberband-dev qt6-multimedia-dev
  libgmime-3.0-dev libzip-dev xdg-utils libgtest-dev libbenchmark-dev poppler-utils python3 xvfb)
style_packages=(clang clang-format clang-tidy)

log=build/$name.log

fail() {
  printf '%s: %s\n' "$name" "$*" >&2
  exit 1
}

# Runs a step with its output in the log; says in one line what failed.
step() {
  local what=$1
  shift
  if ! "$@" >>"$log" 2>&1; then
    tail -n 15 "$log" >&2
    fail "$what failed; the whole output is in $log."
  fi
}

# Installs what is missing of the packages named; asks nothing when all are there.
need_packages() {
  local missing=() package
  for package in "$@"; do
    [ "$(dpkg-query -W -f='${db:Status-Status}' "$package" 2>/dev/null)" = installed ] || missing+=("$package")
  done
  [ ${#missing[@]} -gt 0 ] || return 0
  command -v apt-get >/dev/null || fail "needs Debian 12 or a relative of it; missing here: ${missing[*]}."
  local sudo=()
  if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null || fail "needs root or sudo to install: ${missing[*]}."
    sudo=(sudo)
  fi
  printf '%s: installing %s packages (%s …)\n' "$name" "${#missing[@]}" "${missing[0]}" >&2
  step "fetching the package lists" "${sudo[@]}" apt-get update -qq
  step "installing packages" "${sudo[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}"
}

# Builds targets of a preset; quick when nothing changed.
build() {
  local preset=$1
  shift
  [ -f "build/$preset/build.ninja" ] || step "configuring ($preset)" cmake --preset "$preset"
  step "building ($preset)" cmake --build --preset "$preset" --target "$@"
}
