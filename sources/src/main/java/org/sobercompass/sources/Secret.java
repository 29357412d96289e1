package org.sobercompass.sources;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.Node;

/**
 * Where a password comes from: never from a command line, a workspace or a survey. Its text form
 * says the origin, not the password.
 */
public sealed interface Secret {
  /** The environment variable with this name. */
  record Environment(String name) implements Secret {}

  /** The first line of a file. */
  record File(Path path) implements Secret {}

  /** Asked for on the terminal. */
  record Prompt(String question) implements Secret {}

  /** Gives what the secret needs from the world around; a test gives its own. */
  record Origins(
      Function<String, Optional<String>> environment, Function<String, Optional<String>> prompt) {
    /** The environment and the terminal of this process. */
    public static final Origins PROCESS =
        new Origins(
            name -> Optional.ofNullable(System.getenv(name)),
            question ->
                Optional.ofNullable(System.console())
                    .map(console -> console.readPassword("%s", question))
                    .map(String::new));
  }

  /** The longest password, in characters. */
  int LONGEST = 4096;

  /** Where a secret comes from; never the secret itself. */
  static Optional<Secret> of(Node node, String name, Folder root) {
    if (node.kind() == Node.Kind.SCALAR) {
      if (node.text().equals("prompt")) {
        return Optional.of(new Prompt("Password for " + name + ": "));
      }
      node.wrong(
          "a password or token does not belong into the workspace",
          "prompt, {env: NAME} or {file: PATH}");
      return Optional.empty();
    }
    node.only(Set.of("env", "file"));
    if (node.text("env").isPresent() == node.text("file").isPresent()) {
      node.wrong("the password has no one origin", "either env or file");
      return Optional.empty();
    }
    return node.text("env")
        .<Secret>map(Environment::new)
        .or(() -> node.text("file").map(file -> new File(root.resolve(file))));
  }

  /** Whether an address has user information (RFC 3986 section 3.2.1), which may be a secret. */
  static boolean isIn(String address) {
    return address.matches("[^/?#]*//[^/?#]*@.*");
  }

  /**
   * The password.
   *
   * @throws BadInputException when it is not where it should be
   */
  default String read(Origins origins) {
    if (this instanceof Environment e) {
      return origins
          .environment()
          .apply(e.name)
          .filter(text -> !text.isEmpty())
          .orElseThrow(
              () -> missing("the environment variable " + e.name + " is not set", "it set"));
    }
    if (this instanceof File f) {
      return firstLine(f.path);
    }
    String question = ((Prompt) this).question;
    return origins
        .prompt()
        .apply(question)
        .orElseThrow(
            () ->
                missing(
                    "a password is asked for, but there is no terminal",
                    "password: {env: NAME} or {file: PATH}"));
  }

  private static String firstLine(Path path) {
    try {
      char[] line = new char[LONGEST];
      int length = 0;
      try (BufferedReader in = Files.newBufferedReader(path)) {
        for (int c = in.read(); c >= 0 && c != '\n' && c != '\r'; c = in.read()) {
          if (length == LONGEST) {
            throw missing(
                "the first line of the password file " + path + " is too long",
                "at most " + LONGEST + " characters");
          }
          line[length++] = (char) c;
        }
      }
      if (length > 0) {
        return new String(line, 0, length);
      }
      throw missing("the password file " + path + " is empty", "the password in its first line");
    } catch (IOException e) {
      throw missing(
          "the password file " + path + " cannot be read", "a readable file with the password");
    }
  }

  private static BadInputException missing(String what, String expected) {
    return new BadInputException(Problem.error(Place.of("password"), what, expected));
  }
}
