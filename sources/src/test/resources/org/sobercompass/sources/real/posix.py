"""Asks the kernel. Runs as root; each account in a process of its own that has given root up.

Arguments: a file with paths, one a line; a file with accounts (name:uid:gid:gid,gid). Prints lines
"account path-number answers": for 0-7 whether access(2) lets, then delete, change-mode, and for
folders create.
"""
import os
import sys


def ask(path):
    answers = "".join("1" if os.access(path, mode, effective_ids=True) else "0" for mode in range(8))
    return answers


def attempt(action):
    try:
        action()
        return "1"
    except OSError:
        return "0"


def in_child(account, action):
    """Runs an action as an account and gives back what it returns, as text."""
    name, uid, gid, groups = account
    reader, writer = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(reader)
        os.setgroups(groups)
        os.setresgid(gid, gid, gid)
        os.setresuid(uid, uid, uid)
        os.write(writer, action().encode())
        os._exit(0)
    os.close(writer)
    text = b""
    while True:
        part = os.read(reader, 65536)
        if not part:
            break
        text += part
    os.close(reader)
    os.waitpid(child, 0)
    return text.decode()


def create(folder):
    made = os.path.join(folder, "zz-made")
    handle = os.open(made, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600)
    os.close(handle)


def main():
    paths = open(sys.argv[1], encoding="utf-8").read().splitlines()
    accounts = []
    for line in open(sys.argv[2], encoding="utf-8").read().splitlines():
        name, uid, gid, groups = line.split(":")
        accounts.append((name, int(uid), int(gid), [int(g) for g in groups.split(",") if g]))
    spare = sys.argv[3]
    for account in accounts:
        everything = in_child(account, lambda: "\n".join(ask(p) for p in paths)).split("\n")
        for number, path in enumerate(paths):
            mode = os.lstat(path).st_mode & 0o7777
            is_folder = os.path.isdir(path)
            if is_folder:
                moved = path + "-moved"
                deleted = in_child(account, lambda: attempt(lambda: os.rename(path, moved)))
                if deleted == "1":
                    os.rename(moved, path)
            else:
                keep = os.path.join(spare, "kept")
                os.link(path, keep)
                deleted = in_child(account, lambda: attempt(lambda: os.unlink(path)))
                if deleted == "1":
                    os.link(keep, path)
                os.unlink(keep)
            changed = in_child(account, lambda: attempt(lambda: os.chmod(path, mode)))
            if changed == "1":
                os.chmod(path, mode)
            created = "-"
            if is_folder:
                created = in_child(account, lambda: attempt(lambda: create(path)))
                if created == "1":
                    os.unlink(os.path.join(path, "zz-made"))
            print(account[0], number, everything[number] + deleted + changed + created)


main()
