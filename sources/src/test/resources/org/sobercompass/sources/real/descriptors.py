"""Asks Samba's access check library. Reads lines "sddl<TAB>sid,sid"; prints what is granted at most."""
import sys

from samba import security
from samba.dcerpc import security as dom

MAXIMUM = 0x02000000
ANY = dom.dom_sid("S-1-5-21-1-2-3")

tokens = {}
descriptors = {}
for line in open(sys.argv[1], encoding="utf-8"):
    sddl, sids = line.rstrip("\n").split("\t")
    if sids not in tokens:
        token = dom.token()
        token.num_sids = sids.count(",") + 1
        token.sids = [dom.dom_sid(sid) for sid in sids.split(",")]
        tokens[sids] = token
    if sddl not in descriptors:
        descriptors[sddl] = dom.descriptor.from_sddl(sddl, ANY)
    try:
        print(security.access_check(descriptors[sddl], tokens[sids], MAXIMUM))
    except Exception:
        print(0)
