"""What is piped on holds nothing but what Chapto says."""

import subprocess
import sys


def test_what_a_library_writes_by_itself_goes_to_standard_error() -> None:
    script = (
        "import os; from chapto.cli.own_stdout import own_stdout; own_stdout(); os.write(1, b'solver says\\n'); "
        "print('{}')"
    )
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
    assert (done.stdout, done.stderr) == ("{}\n", "solver says\n")
