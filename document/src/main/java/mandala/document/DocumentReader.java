package mandala.document;

import java.io.InputStream;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReference;
import mandala.core.model.AccessModel;
import mandala.core.model.Kind;
import mandala.core.model.check.Fault;
import mandala.core.model.check.ModelCheck;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Reads a {@code mandala-model/1} document and checks it whole. All faults are reported together,
 * those of the text itself apart: what is not JSON cannot be looked at further.
 */
public final class DocumentReader {

  /** The format that this version reads and writes. */
  public static final String FORMAT = "mandala-model/1";

  private static final JsonMapper JSON =
      JsonMapper.builder().enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION).build();

  private DocumentReader() {}

  /**
   * What was read.
   *
   * @param model the model; to be used only where there are no faults
   * @param faults everything wrong with it, in the order of the document, then of the rules
   */
  public record Result(AccessModel model, List<Fault> faults) {

    /** Copies its faults. */
    public Result {
      faults = List.copyOf(faults);
    }

    /**
     * {@return the model}
     *
     * @throws IllegalArgumentException with the first fault, if there is any
     */
    public AccessModel orThrow() {
      if (!faults.isEmpty()) {
        throw new IllegalArgumentException(
            faults.size() + " faults in the document, first " + faults.getFirst());
      }
      return model;
    }
  }

  /** {@return what a text holds} */
  public static Result read(String text) {
    try {
      return read(JSON.readTree(text));
    } catch (JacksonException e) {
      return notJson(e);
    }
  }

  /** {@return what a stream of UTF-8 holds}; the stream is read to its end and left open */
  public static Result read(InputStream in) {
    try {
      return read(JSON.readTree(in));
    } catch (JacksonException e) {
      return notJson(e);
    }
  }

  private static Result notJson(JacksonException e) {
    String place =
        e.getLocation() == null
            ? "$"
            : "line " + e.getLocation().getLineNr() + ", column " + e.getLocation().getColumnNr();
    return new Result(
        AccessModel.empty(),
        List.of(
            new Fault(
                place,
                "this is not JSON: " + e.getOriginalMessage(),
                "Give a JSON document with \"format\": \"" + FORMAT + "\"")));
  }

  /**
   * {@return a model joined with the expectations and exclusions of a second document}; the joined
   * model is not checked yet
   *
   * @param in UTF-8 with {@code expectations} and {@code exclusions} only; left open
   */
  public static Result readStatements(InputStream in, AccessModel base) {
    JsonNode json;
    try {
      json = JSON.readTree(in);
    } catch (JacksonException e) {
      return notJson(e);
    }
    List<Fault> faults = new ArrayList<>();
    AccessModel.Builder joined = AccessModel.builder();
    for (Kind kind : Kind.values()) {
      boolean statements = kind == Kind.EXPECTATIONS || kind == Kind.EXCLUSIONS;
      if (!statements && json.has(kind.field())) {
        faults.add(
            new Fault(
                "$." + kind.field(),
                "this document can only hold expectations and exclusions",
                "Put it into the model"));
      }
      base.things(kind).forEach(joined::add);
    }
    if (faults.isEmpty()) {
      parse(json, joined, faults);
    }
    return new Result(joined.build(), faults);
  }

  private static Result read(JsonNode json) {
    List<Fault> faults = new ArrayList<>();
    AccessModel.Builder model = AccessModel.builder();
    boolean whole = parse(json, model, faults);
    AccessModel read = model.build();
    if (whole) {
      Set<String> told = new HashSet<>();
      faults.forEach(fault -> told.add(fault.path()));
      ModelCheck.faultsOf(read).stream()
          .filter(fault -> !told.contains(fault.path()))
          .forEach(faults::add);
    }
    return new Result(read, faults);
  }

  /** Reads all things into a model; false where one could not be read. */
  private static boolean parse(JsonNode json, AccessModel.Builder model, List<Fault> faults) {
    if (!json.isObject()) {
      faults.add(
          new Fault(
              "$",
              "the document is not a JSON object",
              "Write { \"format\": \"" + FORMAT + "\", … }"));
      return false;
    }
    Node top = new Node(json, "$", faults);
    String format = top.text("format");
    if (!FORMAT.equals(format)) {
      faults.add(
          new Fault(
              "$.format",
              format == null ? "the format is missing" : "the format is '" + format + "'",
              "Write \"format\": \"" + FORMAT + "\""));
    }
    AtomicReference<Boolean> whole = new AtomicReference<>(true);
    for (Kind kind : Kind.values()) {
      top.list(
          kind.field(),
          (value, where) -> {
            Boolean read =
                top.object(
                    value,
                    where,
                    in -> {
                      model.add(ThingReader.read(kind, in));
                      return true;
                    });
            if (read == null) {
              whole.set(false); // later things of this kind would be told by a wrong number
            }
            return read;
          });
    }
    top.close();
    return Boolean.TRUE.equals(whole.get());
  }
}
