package org.sobercompass.report.pipeline;

import java.io.StringWriter;
import java.util.List;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;

/**
 * Checks as JUnit XML, which pipelines read: one test case a check; what does not hold failed, what
 * is not known is an error, what is accepted was skipped.
 */
public final class JUnitXml {
  private JUnitXml() {}

  /**
   * The whole file.
   *
   * @param suite what was checked: {@code findings} or {@code expectations}
   */
  public static String text(String suite, List<Check> checks) {
    StringWriter out = new StringWriter();
    try {
      XMLStreamWriter xml = XMLOutputFactory.newDefaultFactory().createXMLStreamWriter(out);
      xml.writeStartDocument("UTF-8", "1.0");
      xml.writeCharacters("\n");
      xml.writeStartElement("testsuite");
      xml.writeAttribute("name", "sober " + suite);
      xml.writeAttribute("tests", "" + checks.size());
      xml.writeAttribute("failures", "" + count(checks, "failure"));
      xml.writeAttribute("errors", "" + count(checks, "error"));
      xml.writeAttribute("skipped", "" + count(checks, "skipped"));
      for (Check check : checks) {
        testCase(xml, suite, check);
      }
      xml.writeCharacters("\n");
      xml.writeEndElement();
      xml.writeEndDocument();
      xml.writeCharacters("\n");
      xml.close();
    } catch (XMLStreamException e) {
      throw new IllegalStateException(e);
    }
    return out.toString();
  }

  private static long count(List<Check> checks, String element) {
    return checks.stream().filter(check -> element(check).equals(element)).count();
  }

  /** The element that says how a check came out; empty when it holds. */
  private static String element(Check check) {
    if (!check.accepted().isEmpty()) {
      return "skipped";
    }
    boolean unknown = check.rule().equals("expectation") && check.level() == Check.Level.WARNING;
    return check.level() == Check.Level.NONE ? "" : unknown ? "error" : "failure";
  }

  private static void testCase(XMLStreamWriter xml, String suite, Check check)
      throws XMLStreamException {
    xml.writeCharacters("\n  ");
    xml.writeStartElement("testcase");
    xml.writeAttribute("classname", "sober." + suite + "." + check.rule());
    xml.writeAttribute("name", clean(check.id()));
    String element = element(check);
    if (!element.isEmpty()) {
      xml.writeCharacters("\n    ");
      xml.writeStartElement(element);
      String message = check.accepted().isEmpty() ? check.sentence() : check.accepted();
      xml.writeAttribute("message", clean(message));
      if (!element.equals("skipped")) {
        xml.writeCharacters(clean(String.join("\n", check.lines())));
      }
      xml.writeEndElement();
      xml.writeCharacters("\n  ");
    }
    xml.writeEndElement();
  }

  /** Without characters that XML 1.0 does not allow (section 2.2). */
  private static String clean(String text) {
    StringBuilder out = new StringBuilder();
    text.codePoints()
        .forEach(
            c -> {
              boolean allowed =
                  c == 9
                      || c == 10
                      || c == 13
                      || (c >= 0x20 && c <= 0xD7FF)
                      || (c >= 0xE000 && c <= 0xFFFD)
                      || c >= 0x10000;
              out.appendCodePoint(allowed ? c : 0xFFFD);
            });
    return out.toString();
  }
}
