package mandala.server.history;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import org.apache.commons.codec.digest.DigestUtils;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Holds a file to the hashes of reports that the trail has. */
@Component
public class ReportProof {

  /** Lines that name hashes, with these at their end: titles before them are chosen by people. */
  private static final String LINE =
      "^(Closed|Signed) the review round [0-9]+, .*; SHA-256 of its report: json [0-9a-f]{64},"
          + " xlsx [0-9a-f]{64}, pdf [0-9a-f]{64}$";

  /** Length of “json …, xlsx …, pdf …”. */
  private static final int HASHES = 210;

  private final JdbcTemplate database;

  ReportProof(JdbcTemplate database) {
    this.database = database;
  }

  /**
   * {@return what the trail says of a file}: it begins with GENUINE where a line of the trail names
   * its hash, with NOT GENUINE where none does, with NOT READ where there is no such file
   */
  public String of(Path file) {
    String hash;
    try (InputStream in = Files.newInputStream(file)) {
      hash = DigestUtils.sha256Hex(in);
    } catch (IOException e) {
      return "NOT READ: " + file + " can't be read (" + e.getClass().getSimpleName() + ").";
    }
    return database
        .query(
            "select seq, said from trail where act = 'checked' and said ~ ?"
                + " and strpos(right(said, ?), ?) > 0 order by seq limit 1",
            (row, _) ->
                "GENUINE: line " + row.getLong(1) + " of the trail says: " + row.getString(2),
            LINE,
            HASHES,
            hash)
        .stream()
        .findFirst()
        .orElse("NOT GENUINE: no line of the trail names its SHA-256, " + hash + ".");
  }
}
