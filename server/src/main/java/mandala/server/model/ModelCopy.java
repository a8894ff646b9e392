package mandala.server.model;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.function.BiFunction;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import mandala.core.model.AccessModel;
import mandala.core.model.Kind;
import mandala.document.DocumentReader;
import mandala.document.DocumentWriter;
import mandala.document.ThingDocument;
import mandala.server.audit.Blotting;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Full copies of the model as they are kept: documents (section 10), packed with gzip. */
final class ModelCopy {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private ModelCopy() {}

  static byte[] bytes(AccessModel model) {
    return packed(zip -> DocumentWriter.write(model, zip));
  }

  static byte[] bytes(String document) {
    return packed(zip -> zip.write(document.getBytes(StandardCharsets.UTF_8)));
  }

  @FunctionalInterface
  private interface Writing {
    void to(OutputStream out) throws IOException;
  }

  private static byte[] packed(Writing what) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (GZIPOutputStream zip = new GZIPOutputStream(bytes)) {
      what.to(zip);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return bytes.toByteArray();
  }

  /** {@return the document in a copy} */
  static String text(byte[] copy) {
    try (GZIPInputStream zip = new GZIPInputStream(new ByteArrayInputStream(copy))) {
      return new String(zip.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  static AccessModel read(byte[] copy) {
    try (GZIPInputStream zip = new GZIPInputStream(new ByteArrayInputStream(copy))) {
      return DocumentReader.read(zip).orThrow();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** {@return a document without somebody}; the same where it does not name them */
  static String blotted(String document, Blotting how) {
    String lower = document.toLowerCase(java.util.Locale.ROOT);
    boolean named =
        how.tokens().stream().anyMatch(it -> lower.contains(it.toLowerCase(java.util.Locale.ROOT)));
    return named
        ? ThingDocument.rewritten(JSON.readTree(document), how::thing).toString()
        : document;
  }

  static void each(String document, BiFunction<Kind, JsonNode, JsonNode> sink) {
    ThingDocument.rewritten(JSON.readTree(document), sink);
  }

  /** {@return the digest of the model in a document} */
  static String digestOf(String document) {
    return ModelDigest.of(read(bytes(document))).hex();
  }
}
