# Finds a Python that can make virtual environments, or installs Debian's. Sourced by ./start and ./test.
export PYTHONDONTWRITEBYTECODE=1
if ! python3 -c 'import ensurepip, sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
  echo "· Installing Python from Debian"
  as_root=""
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null || { echo "Python 3.11 is missing. Run this as root or with sudo installed." >&2; exit 1; }
    as_root="sudo"
  fi
  $as_root apt-get update -qq
  $as_root apt-get install -y -qq --no-install-recommends python3 python3-venv python3-dev >/dev/null
fi
PYTHON=$(command -v python3)
