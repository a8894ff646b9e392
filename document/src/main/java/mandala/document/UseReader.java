package mandala.document;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.MalformedInputException;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import mandala.core.excess.UseRecord;
import mandala.core.model.check.Fault;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Reads use records (section 12): JSON Lines, {@code mandala-use/1}. Each line is an object {@code
 * {principal, permission, resource, day, count, actingFor}}, count 1 and actingFor none where they
 * are left out or null; blank lines do not count.
 */
public final class UseReader {

  private static final JsonMapper JSON =
      JsonMapper.builder().enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION).build();

  private UseReader() {}

  /**
   * Reads all lines, in order; what is faulty is left out.
   *
   * @param sink takes each record without a fault
   * @return all faults, their paths beginning with {@code line 3:}; lines from 1
   * @throws IOException if the input cannot be read
   */
  public static List<Fault> read(InputStream in, Consumer<UseRecord> sink) throws IOException {
    List<Fault> faults = new ArrayList<>();
    BufferedReader lines =
        new BufferedReader(
            new InputStreamReader(
                in,
                StandardCharsets.UTF_8.newDecoder().onMalformedInput(CodingErrorAction.REPORT)));
    int number = 0;
    try {
      for (String line = lines.readLine(); line != null; line = lines.readLine()) {
        number++;
        // a byte order mark is no part of the first line
        String text = number == 1 && line.startsWith("\uFEFF") ? line.substring(1) : line;
        if (!text.isBlank()) {
          line(text, "line " + number + ": $", faults, sink);
        }
      }
    } catch (MalformedInputException _) {
      faults.add(
          new Fault(
              "after line " + number, "the file is not UTF-8", "Write it as UTF-8 and try again"));
    }
    return faults;
  }

  private static void line(String text, String path, List<Fault> faults, Consumer<UseRecord> sink) {
    JsonNode json;
    try {
      json = JSON.readTree(text);
    } catch (JacksonException e) {
      faults.add(
          new Fault(
              path,
              "this is not JSON: " + e.getOriginalMessage(),
              "Write one JSON object on the line"));
      return;
    }
    if (!json.isObject()) {
      faults.add(new Fault(path, "this is no JSON object", "Write one JSON object on the line"));
      return;
    }
    record(new Node(json, path, faults), path, faults, sink);
  }

  private static void record(Node in, String path, List<Fault> faults, Consumer<UseRecord> sink) {
    int before = faults.size();
    PrincipalKey principal = in.requiredKey("principal", PrincipalKey::new);
    PermissionKey permission = in.requiredKey("permission", PermissionKey::new);
    ResourceKey resource = in.requiredKey("resource", ResourceKey::new);
    LocalDate day = in.requiredDay("day");
    long count = in.wholeNumber("count", 1);
    PrincipalKey actingFor = in.isNull("actingFor") ? null : in.key("actingFor", PrincipalKey::new);
    in.close();
    if (faults.size() == before) {
      UseRecord.faultOf(path, principal, count, actingFor)
          .ifPresentOrElse(
              faults::add,
              () ->
                  sink.accept(
                      new UseRecord(principal, permission, resource, day, count, actingFor)));
    }
  }
}
