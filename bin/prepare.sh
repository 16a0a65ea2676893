# Sets the machine up: Python, the pinned packages in .venv, the system libraries that Qt needs.
# Sourced by bin/holoptic and bin/test. Touches the network only when something is missing.
#
# Python is started with -P everywhere: without it `-m` and `-c` look for modules in the working
# folder first, and so would run whatever lies beside somebody's job.

prepare_apt_packages="libegl1 libgl1 libopengl0 libx11-6 libfontconfig1 libdbus-1-3 libglib2.0-0 \
libxkbcommon0 libxkbcommon-x11-0 libxcb-cursor0 libxcb-icccm4 libxcb-image0 libxcb-keysyms1 \
libxcb-randr0 libxcb-render-util0 libxcb-shape0 libxcb-xinerama0"

# What the tests of the desktop ask: validators, type database, accessibility bus, displays.
prepare_test_packages="desktop-file-utils appstream xdg-utils shared-mime-info libglib2.0-bin man-db \
at-spi2-core dbus xvfb weston python3-gi gir1.2-atspi-2.0"
prepare_test_programs="desktop-file-validate appstreamcli xdg-mime update-mime-database gio man \
dbus-run-session Xvfb weston"

say() { printf 'holoptic: %s\n' "$*" >&2; }

# Installs Debian packages, or prints the exact command where that is not allowed.
apt_install() {
    if ! command -v apt-get >/dev/null; then
        say "this needs the packages: $*"
        return 1
    fi
    local as_root=()
    if [ "$(id -u)" -ne 0 ]; then
        if command -v sudo >/dev/null && { [ -t 0 ] || sudo -n true 2>/dev/null; }; then
            as_root=(sudo)
        else
            say "please run:  sudo apt-get update && sudo apt-get install -y $*"
            return 1
        fi
    fi
    say "installing system packages: $*"
    "${as_root[@]}" apt-get update -qq >&2 || true
    "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive \
        apt-get install -y -qq --no-install-recommends "$@" >/dev/null || {
        say "please run:  sudo apt-get update && sudo apt-get install -y $*"
        return 1
    }
}

find_python() {
    local candidate
    for candidate in python3.11 python3 python3.12 python3.13; do
        if "$candidate" -P -c 'import sys; sys.exit(not (3, 11) <= sys.version_info < (3, 14))' \
            2>/dev/null; then
            command -v "$candidate"
            return 0
        fi
    done
    return 1
}

make_venv() {
    local python
    if ! python=$(find_python); then
        # shellcheck disable=SC2086
        apt_install python3 python3-venv $prepare_apt_packages || return 1
        python=$(find_python) || { say "Python 3.11 to 3.13 is needed"; return 1; }
    fi
    rm -rf "$venv"
    if ! "$python" -P -m venv "$venv" >/dev/null 2>&1; then
        # Debian keeps the part of Python that makes environments in a package of its own
        rm -rf "$venv"
        # (and where that is missing Qt's libraries are too: one command for all)
        # shellcheck disable=SC2086
        apt_install "python$("$python" -P -c 'import sys; print("%d.%d" % sys.version_info[:2])')-venv" \
            $prepare_apt_packages || return 1
        "$python" -P -m venv "$venv" || return 1
    fi
}

missing_libraries() {
    local packages wants
    packages=$("$venv/bin/python" -P -c 'import site; print(site.getsitepackages()[0])')
    # kept in a variable: a pipe that grep leaves early would count as failed under pipefail
    wants=$(ldd "$packages"/PyQt6/Qt6/lib/libQt6{Core,Gui,Widgets,Svg,XcbQpa}.so.6 \
        "$packages"/PyQt6/Qt6/plugins/platforms/lib{qxcb,qoffscreen}.so \
        "$packages"/OCP/OCP*.so 2>/dev/null || true)
    case "$wants" in *"not found"*) return 0 ;; *) return 1 ;; esac
}

# Installs what only tests need; where that is not allowed they leave out what asks for it.
prepare_test_tools() {
    local program
    for program in $prepare_test_programs; do
        if ! command -v "$program" >/dev/null; then
            # shellcheck disable=SC2086
            apt_install $prepare_test_packages || say "tests that need $program are left out"
            return 0
        fi
    done
}

# Compiles what finds hidden lines quickly; without it the geometry kernel does, more slowly.
compile_part() {
    local source="$here/src/holoptic/solid/seeing/native/hidden_lines.c" stamp="$venv/.compiled"
    local wanted
    wanted="$(sha256sum "$source" | cut -d' ' -f1) $here"
    if [ "$(cat "$stamp" 2>/dev/null)" = "$wanted" ]; then return 0; fi
    if ! command -v cc >/dev/null && ! command -v gcc >/dev/null && ! command -v clang >/dev/null
    then
        apt_install gcc libc6-dev || true
    fi
    "$venv/bin/python" -P -m holoptic.solid.seeing.compiled ||
        say "there is no C compiler: pictures of large parts will take longer"
    printf '%s' "$wanted" >"$stamp"
}

# prepare LOCKFILE: afterwards $venv/bin/python has everything that the lock file names.
prepare() {
    local lock="$here/$1" stamp wanted
    venv="${HOLOPTIC_VENV:-$here/.venv}"
    stamp="$venv/.ready-$1"
    wanted="$(sha256sum "$lock" | cut -d' ' -f1) $here"
    if [ -x "$venv/bin/python" ] && [ "$(cat "$stamp" 2>/dev/null)" = "$wanted" ]; then
        compile_part
        return 0
    fi
    mkdir -p "$(dirname "$venv")"
    exec 9>"$venv.lock"
    if command -v flock >/dev/null; then flock 9; fi # two first starts must not build at once
    if [ "$(cat "$stamp" 2>/dev/null)" != "$wanted" ]; then
        say "setting up (once; a few minutes) …"
        if ! "$venv/bin/python" -P -c '' 2>/dev/null; then make_venv || return 1; fi
        "$venv/bin/python" -P -m pip install --quiet --disable-pip-version-check --no-input \
            --require-hashes --only-binary :all: -r "$lock" >&2 || {
            say "the pinned packages could not be installed; is there a network?"
            return 1
        }
        "$venv/bin/python" -P -c 'import site, sys, pathlib
pathlib.Path(site.getsitepackages()[0], "holoptic.pth").write_text(sys.argv[1] + "\n")' "$here/src"
        if missing_libraries; then
            # shellcheck disable=SC2086
            apt_install $prepare_apt_packages || return 1
        fi
        printf '%s' "$wanted" >"$stamp"
    fi
    exec 9>&-
    compile_part
}
