package org.sobercompass.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** The demo and what it does not have, so that every reader has something to read. */
final class FullWorkspace {
  private FullWorkspace() {}

  static void write(Path root) throws IOException {
    DemoFiles.write(root);
    Path main = root.resolve("compass.yaml");
    String text =
        Files.readString(main)
            .replace(
                "    file: directory/alderfen.ldif\n",
                "    file: directory/alderfen.ldif\n    schema: directory/schema.ldif\n")
            .replace(
                "    file: directory/desks.ldif\n",
                "    file: directory/desks.ldif\n    names: [directory/names.ldif]\n")
            .replace(
                "\n# Admin scopes, admin roles",
                """
                  gatehouse:
                    kind: host
                    file: directory/gatehouse.txt
                    taken: 2026-11-20T05:55:00Z
                  sharing:
                    kind: scim
                    file: directory/sharing.json
                    taken: 2026-11-20T05:55:00Z

                groups:
                  gardeners:
                    directory: alderfen
                    members: "(title=Gardener)"

                # Admin scopes, admin roles\
                """)
            .replace(
                "  - applications/fieldbook.yaml\n",
                "  - applications/fieldbook.yaml\n  - applications/archive.yaml\n")
            .replace(
                "usage:\n",
                "usage:\n  - {application: orders, file: usage/orders.jsonl, since: 2026-01-01}\n");
    Files.writeString(main, text);
    put(
        root,
        "directory/schema.ldif",
        """
        dn: cn=Subschema
        objectClass: top
        objectClass: subschema
        cn: Subschema
        attributeTypes: ( 2.5.4.41 NAME 'name' EQUALITY caseIgnoreMatch SUBSTR caseIgnoreSubstringsMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.15 )
        attributeTypes: ( 2.5.4.3 NAME ( 'cn' 'commonName' ) SUP name )
        attributeTypes: ( 2.5.4.4 NAME ( 'sn' 'surname' ) SUP name )
        attributeTypes: ( 2.5.4.31 NAME 'member' EQUALITY distinguishedNameMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.12 )
        attributeTypes: ( 0.9.2342.19200300.100.1.1 NAME ( 'uid' 'userid' ) EQUALITY caseIgnoreMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.15 )
        objectClasses: ( 2.5.6.6 NAME 'person' SUP top STRUCTURAL MUST ( sn $ cn ) )
        objectClasses: ( 2.5.6.7 NAME 'organizationalPerson' SUP person STRUCTURAL )
        objectClasses: ( 2.16.840.1.113730.3.2.2 NAME 'inetOrgPerson' SUP organizationalPerson STRUCTURAL MAY ( uid ) )

        """);
    put(
        root,
        "directory/names.ldif",
        """
        dn: CN=Open-Gate,CN=Extended-Rights,CN=Configuration,DC=desks,DC=alderfen,DC=example
        objectClass: controlAccessRight
        cn: Open-Gate
        displayName: Open Gate
        rightsGuid: 6f0a2b51-6a4f-4bb4-9d3c-0a6a6e5a1c11
        validAccesses: 256

        """);
    put(
        root,
        "directory/gatehouse.txt",
        """
        root:x:0:0:root:/root:/bin/sh
        dagny:x:1001:1001:Dagny Orr:/home/dagny:/bin/sh
        wheel:x:10:dagny
        dagny:$6$salt$hash:20000:0:90:7:::
        """);
    put(
        root,
        "directory/sharing.json",
        """
        {"Resources": [
         {"schemas": ["urn:ietf:params:scim:schemas:core:2.0:User"], "id": "u1",
          "userName": "dagny", "active": true, "displayName": "Dagny Orr"},
         {"schemas": ["urn:ietf:params:scim:schemas:core:2.0:Group"], "id": "g1",
          "displayName": "Keepers", "members": [{"value": "u1"}]}]}
        """);
    put(
        root,
        "applications/archive.yaml",
        "kind: nfs4-files\nid: archive\nname: Archive\nlists: files/archive.nfs4\n"
            + "sight: {directory: fernhollow}\nabove: open\n");
    put(
        root,
        "files/archive.nfs4",
        """
        # file: /
        # owner: root@fernhollow.example
        # group: root@fernhollow.example
        A::OWNER@:rwx
        A::EVERYONE@:rx

        # file: /letters
        # owner: dsorrel@fernhollow.example
        # group: root@fernhollow.example
        A::emoor@fernhollow.example:rx
        D:g:root@fernhollow.example:x
        A::EVERYONE@:rx

        """);
    put(
        root,
        "usage/orders.jsonl",
        "{\"account\": \"ilse.brandt\", \"permission\": \"payments:sign\", \"last\":"
            + " \"2026-11-01\"}\n");
    put(
        root,
        "questions.csv",
        "account,permission,node\n"
            + "ilse.brandt,orders:payments:sign,\n"
            + "joss.merrin,orders:orders:raise,\n");
    put(
        root,
        "questions.jsonl",
        "{\"account\": \"ilse.brandt\", \"permission\": \"orders:payments:sign\"}\n");
  }

  private static void put(Path root, String name, String text) throws IOException {
    Path file = root.resolve(name);
    Files.createDirectories(file.getParent());
    Files.writeString(file, text);
  }
}
