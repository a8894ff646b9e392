package mandala.server.platform;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Map;
import org.openpdf.text.Document;
import org.openpdf.text.Element;
import org.openpdf.text.Font;
import org.openpdf.text.ListItem;
import org.openpdf.text.PageSize;
import org.openpdf.text.Paragraph;
import org.openpdf.text.Phrase;
import org.openpdf.text.pdf.BaseFont;
import org.openpdf.text.pdf.ColumnText;
import org.openpdf.text.pdf.PdfPCell;
import org.openpdf.text.pdf.PdfPTable;
import org.openpdf.text.pdf.PdfPageEventHelper;
import org.openpdf.text.pdf.PdfWriter;

/**
 * A page for printing, as PDF (ISO 32000) on A4: headings, paragraphs, facts and lists, with the
 * title and the number of the page below each. Its fonts are embedded and know Latin, Greek and
 * Cyrillic letters. Not thread-safe.
 */
public final class PdfPage implements AutoCloseable {

  /** The media type. */
  public static final String TYPE = "application/pdf";

  private static final BaseFont REGULAR = font("LiberationSans-Regular.ttf");
  private static final BaseFont BOLD = font("LiberationSans-Bold.ttf");
  private static final float MARGIN = 56;
  private static final float SIZE = 10;

  private final Document document = new Document(PageSize.A4, MARGIN, MARGIN, MARGIN, MARGIN);

  /**
   * Begins a page.
   *
   * @param title at the top, and below each sheet
   * @param note after the title in both: of what, and when
   */
  public PdfPage(OutputStream out, String title, String note) {
    PdfWriter writer = PdfWriter.getInstance(document, out);
    writer.setPageEvent(new Footer(title + " · " + note));
    document.addTitle(title);
    document.addCreator("Mandala");
    document.open();
    add(new Paragraph(title, new Font(BOLD, 18)));
    paragraph(note);
  }

  private static BaseFont font(String name) {
    try (InputStream in = PdfPage.class.getResourceAsStream("/liberation/" + name)) {
      if (in == null) {
        throw new IllegalStateException("Impossible state: the font " + name + " is not there");
      }
      return BaseFont.createFont(
          name, BaseFont.IDENTITY_H, BaseFont.EMBEDDED, true, in.readAllBytes(), null);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private void add(Element element) {
    document.add(element);
  }

  /** Adds a heading of a part. */
  public void heading(String text) {
    Paragraph heading = new Paragraph(text, new Font(BOLD, 13));
    heading.setSpacingBefore(14);
    heading.setSpacingAfter(4);
    heading.setKeepTogether(true);
    add(heading);
  }

  /** Adds a heading within a part. */
  public void subheading(String text) {
    Paragraph heading = new Paragraph(text, new Font(BOLD, SIZE));
    heading.setSpacingBefore(8);
    heading.setKeepTogether(true);
    add(heading);
  }

  /** Adds a paragraph. */
  public void paragraph(String text) {
    Paragraph paragraph = new Paragraph(text, new Font(REGULAR, SIZE));
    paragraph.setSpacingAfter(4);
    add(paragraph);
  }

  /** Adds names with their values, in their order; nothing where there are none. */
  public void facts(Map<String, String> facts) {
    if (facts.isEmpty()) {
      return;
    }
    PdfPTable table = new PdfPTable(new float[] {1, 4});
    table.setWidthPercentage(100);
    facts.forEach((name, value) -> {
      table.addCell(cell(name, BOLD));
      table.addCell(cell(value, REGULAR));
    });
    add(table);
  }

  private static PdfPCell cell(String text, BaseFont font) {
    PdfPCell cell = new PdfPCell(new Phrase(text, new Font(font, SIZE)));
    cell.setBorder(PdfPCell.NO_BORDER);
    cell.setPaddingLeft(0);
    return cell;
  }

  /** Adds a list; nothing where it is empty. */
  public void list(List<String> items) {
    if (items.isEmpty()) {
      return;
    }
    org.openpdf.text.List list = new org.openpdf.text.List(false, 12);
    list.setListSymbol(new org.openpdf.text.Chunk("–", new Font(REGULAR, SIZE)));
    items.forEach(it -> list.add(new ListItem(it, new Font(REGULAR, SIZE))));
    add(list);
  }

  /** Ends the document. */
  @Override
  public void close() {
    document.close();
  }

  /** The line below each sheet. */
  private static final class Footer extends PdfPageEventHelper {
    private final String said;

    Footer(String said) {
      this.said = said;
    }

    @Override
    public void onEndPage(PdfWriter writer, Document document) {
      Font small = new Font(REGULAR, 8);
      float y = document.bottom() - 24;
      String left = said.length() > 100 ? said.substring(0, 99) + "…" : said;
      ColumnText.showTextAligned(
          writer.getDirectContent(),
          Element.ALIGN_LEFT,
          new Phrase(left, small),
          document.left(),
          y,
          0);
      ColumnText.showTextAligned(
          writer.getDirectContent(),
          Element.ALIGN_RIGHT,
          new Phrase(String.valueOf(writer.getPageNumber()), small),
          document.right(),
          y,
          0);
    }
  }
}
