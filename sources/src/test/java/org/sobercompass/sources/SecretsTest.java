package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.sources.directory.Secrets;

/** Secrets are left out of LDIF, however their lines are folded and ended. */
class SecretsTest {
  private static final String ENTRY =
      """
      dn: uid=a,dc=example
      # a comment that says
       hunter2
      uid: a
      userPassword:: aHVudGVyMg
       hunter2
       hunter2
      cn: A long
        name
      UserPass
       word;x-old: hunter2
      description: userPassword: is no secret here

      dn: uid=b,dc=example
      unicodePwd: hunter2
      uid: b
      """;

  private static final String KEPT =
      """
      dn: uid=a,dc=example
      uid: a
      cn: A long
        name
      description: userPassword: is no secret here

      dn: uid=b,dc=example
      uid: b
      """;

  private static String without(String ldif, int step) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    InputStream whole = new ByteArrayInputStream(ldif.getBytes(StandardCharsets.UTF_8));
    Secrets.withoutThem(new Stepping(whole, step), out);
    return out.toString(StandardCharsets.UTF_8);
  }

  /** Gives so many bytes at a time. */
  private static final class Stepping extends InputStream {
    private final InputStream in;
    private final int step;

    Stepping(InputStream in, int step) {
      this.in = in;
      this.step = step;
    }

    @Override
    public int read() throws IOException {
      return in.read();
    }

    @Override
    public int read(byte[] into, int from, int length) throws IOException {
      return in.read(into, from, Math.min(step, length));
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"\n", "\r\n", "\r"})
  void nothingOfASecretIsKept(String lineEnd) throws IOException {
    for (int step : new int[] {1, 2, 3, 7, 1000}) {
      String left = without(ENTRY.replace("\n", lineEnd), step);
      assertThat(left).as("step " + step).doesNotContain("hunter2");
      assertThat(left.replace("\r\n", "\n").replace("\r", "\n")).as("step " + step).isEqualTo(KEPT);
    }
  }

  @Test
  void whatHasNoSecretsStaysToTheByte() throws IOException {
    String long1 = "description: " + "x".repeat(200_000) + "\r\n " + "y".repeat(70_000) + "\r\n";
    String ldif = "\uFEFFversion: 1\n\ndn: uid=a\n" + long1 + "uid: a\n\n\ndn:: eA==\nuid: z";
    assertThat(without(ldif, 1 << 16)).isEqualTo(ldif);
  }

  @Test
  void aFileThatEndsInASecretIsCutThere() throws IOException {
    assertThat(without("dn: a\nuserPassword", 10)).isEqualTo("dn: a\n");
    assertThat(without("dn: a\nuserPassword:", 10)).isEqualTo("dn: a\n");
    assertThat(without("dn: a\nui", 10)).isEqualTo("dn: a\nui");
    assertThat(without("", 10)).isEmpty();
  }
}
