package mandala.server;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collections;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;

/** What can be read in an answer that is a file: in packed bytes no word is found but by chance. */
final class FileText {

  private FileText() {}

  static String of(String type, byte[] body) throws IOException {
    if (type.startsWith("application/pdf")) {
      try (var paper = Loader.loadPDF(body)) {
        return new PDFTextStripper().getText(paper);
      }
    }
    if (!type.contains("spreadsheetml")) {
      return new String(body, StandardCharsets.UTF_8);
    }
    StringBuilder parts = new StringBuilder();
    Path file = Files.createTempFile("answer", ".xlsx");
    try {
      Files.write(file, body);
      try (var zip = new ZipFile(file.toFile())) {
        for (ZipEntry it : Collections.list(zip.entries())) {
          byte[] part = zip.getInputStream(it).readAllBytes();
          parts.append(new String(part, StandardCharsets.UTF_8)).append('\n');
        }
      }
    } finally {
      Files.delete(file);
    }
    return parts.toString();
  }
}
