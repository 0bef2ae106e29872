"""The one command: what it says when it is asked for something it cannot do. Nothing here sets anything up."""

import subprocess
import unittest

from django.conf import settings


def pipette(*arguments):
    found = subprocess.run(
        ["bash", "pipette", *arguments], cwd=settings.BASE_DIR, capture_output=True, text=True, timeout=60, check=False
    )
    return found.returncode, found.stdout, found.stderr


def sourced(script):
    """Run a piece of shell with the command's own functions at hand."""
    head = f'set -euo pipefail; ROOT="{settings.BASE_DIR}"; CALLED_FROM=$ROOT; command=demo; cd "$ROOT"; '
    head += ". tools/say.sh; . tools/setup.sh; . tools/serve.sh; . tools/data.sh; . tools/check.sh; "
    found = subprocess.run(["bash", "-c", head + script], capture_output=True, text=True, timeout=60, check=False)
    return found.returncode, found.stdout, found.stderr


class Command(unittest.TestCase):
    def test_help_names_every_command(self):
        code, out, _ = pipette("help")
        self.assertEqual(code, 0)
        for command in (
            "demo",
            "serve",
            "add-teacher",
            "import-readings",
            "backup",
            "restore",
            "test",
            "bench",
            "shots",
            "stop",
            "help",
        ):
            self.assertIn(f"./pipette {command}", out)

    def test_what_is_not_a_command_is_refused_with_the_help(self):
        code, _, said = pipette("brew")
        self.assertEqual(code, 1)
        self.assertIn("there is no command “brew”", said)
        self.assertIn("./pipette demo", said)

    def test_wrong_options_are_refused_before_anything_is_set_up(self):
        for arguments, said in [
            (("demo", "--port", "x"), "a number from 1 to 65535"),
            (("demo", "--port", "70000"), "a number from 1 to 65535"),
            (("demo", "--port"), "a number from 1 to 65535"),
            (("demo", "--colour"), "unknown option"),
            (("serve", "--fresh"), "--fresh is for the demo only"),
            (("import-readings",), "name the file"),
            (("backup",), "name the file"),
            (("restore",), "name the file"),
            (("restore", "/nowhere/at.all"), "there is no file"),
            (("backup", "README.md"), "is there already"),
            (("import-readings", "/nowhere/at/all.csv"), "there is no file"),
        ]:
            with self.subTest(arguments):
                code, _, error = pipette(*arguments)
                self.assertEqual(code, 1)
                self.assertIn(said, error)

    def test_a_step_that_fails_says_so_and_leaves_no_mark(self):
        code, _, error = sourced('RUN=$(mktemp -d); step "Trying" bash -c "echo broken pipe dream; exit 3"')
        self.assertEqual(code, 1)
        self.assertIn("Trying failed", error)
        self.assertIn("broken pipe dream", error)

    def test_a_step_counts_as_done_only_for_the_same_input(self):
        code, out, _ = sourced(
            "RUN=$(mktemp -d); mark web abc; fresh web abc && echo same; fresh web abd || echo other; fresh npm abc || echo never"
        )
        self.assertEqual((code, out.split()), (0, ["same", "other", "never"]))

    def test_two_starts_at_once_are_one_and_what_ended_without_a_word_holds_nobody_up(self):
        alone = "RUN=$(mktemp -d); command=demo; debian_packages() { :; }; python_packages() { :; }; front_end() { :; }; "
        code, out, error = sourced(
            alone + "set_up run; (BASHPID=0; set_up run) || echo refused; not_alone; set_up run; echo on"
        )
        self.assertEqual((code, out.split()[-1]), (0, "on"))
        self.assertIn("being set up or started here already", error)
        code, out, _ = sourced(alone + 'echo 999999999 >"$RUN/setting-up"; set_up run; echo on')
        self.assertEqual((code, out.split()), (0, ["on"]))

    def test_a_taken_port_is_seen(self):
        code, out, _ = sourced(
            'python3 -c \'import socket,time; s=socket.socket(); s.bind(("127.0.0.1",0)); s.listen(); '
            "print(s.getsockname()[1], flush=True); time.sleep(5)' >/tmp/pipette-port.$$ & "
            "sleep 1; port=$(</tmp/pipette-port.$$); rm /tmp/pipette-port.$$; "
            'if port_is_free "$port"; then echo free; else echo taken; fi; kill %1'
        )
        self.assertIn("taken", out)

    def test_a_server_that_ends_is_started_again_and_given_up_after_five_ends_in_a_minute(self):
        stub = (
            'RUN=$(mktemp -d); SERVER=$RUN/server; mkdir "$SERVER"; '
            'start_server() { echo started; false & echo "$!" >"$SERVER/pid"; }; wait_until_up() { :; }; '
        )
        code, out, error = sourced(stub + "start_server 1; keep_running 1")
        self.assertEqual((code, out.count("started again"), out.splitlines().count("started")), (1, 4, 5))
        self.assertIn("What was recorded is safe", error)
        slow = 'ENDS_WITHIN=0; n=0; wait_until_up() { n=$((n + 1)); [[ $n -lt 12 ]] || touch "$SERVER/stopping"; }; '
        code, out, _ = sourced(stub + slow + "start_server 1; keep_running 1")
        self.assertEqual((code, out.count("started again")), (0, 12))

    def test_a_server_that_is_stopped_is_not_started_again(self):
        code, out, _ = sourced(
            'RUN=$(mktemp -d); SERVER=$RUN/server; mkdir "$SERVER"; touch "$SERVER/stopping"; true & echo "$!" >"$SERVER/pid"; '
            "start_server() { echo started; }; keep_running 1"
        )
        self.assertEqual((code, out), (0, ""))

    def choose(self, found, wish="", answer=""):
        """Choose an address among those found, as on a terminal that is none."""
        stub = f"PORT=8321 CERTIFICATE= KEY=; list_addresses() {{ printf '%s\\n' {found}; }}; "
        return sourced(stub + f'choose_address "{wish}"; public_url')

    def test_in_class_takes_the_only_address_asks_among_several_and_says_when_there_is_none(self):
        self.assertEqual(self.choose("10.1.2.3")[1].strip(), "http://10.1.2.3:8321")
        self.assertEqual(self.choose("10.1.2.3 192.168.0.9", "192.168.0.9")[1].strip(), "http://192.168.0.9:8321")
        for found, wish, said in (
            ("10.1.2.3 192.168.0.9", "", "on several networks: 10.1.2.3 192.168.0.9. Say which"),
            ("10.1.2.3", "10.9.9.9", "has no address 10.9.9.9. It has: 10.1.2.3"),
        ):
            code, out, error = self.choose(found, wish)
            self.assertEqual((code, out), (1, ""))
            self.assertIn(said, error)
        code, _, error = sourced("list_addresses() { :; }; choose_address ''")
        self.assertEqual(code, 1)
        self.assertIn("on no network", error)

    def test_options_of_the_class_go_together(self):
        for arguments, said in (
            (("serve", "--address", "10.1.2.3"), "go with --in-class"),
            (("demo", "--in-class", "--address", "here"), "in numbers"),
            (("serve", "--in-class", "--certificate", "README.md"), "go together"),
            (("serve", "--in-class", "--key", "/nowhere"), "cannot be read"),
        ):
            code, _, error = pipette(*arguments)
            self.assertEqual(code, 1, arguments)
            self.assertIn(said, error)

    def test_another_processs_number_is_not_taken_for_our_server(self):
        code, out, _ = sourced('SERVER=$(mktemp -d); echo 1 >"$SERVER/pid"; server_pid || echo not ours')
        self.assertEqual((code, out.strip()), (0, "not ours"))
