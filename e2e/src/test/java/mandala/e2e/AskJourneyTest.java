package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A security administrator asks what somebody can do, and why. */
@ExtendWith(Running.class)
class AskJourneyTest {

  @Test
  void sheSignsInAndAsksWhatSomebodyCanDo(Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.open("/ask?who=odile.farrow&in=quillhaven");
    browser.read("Loans desk");
    assertThat(browser.see(".sentence").getText())
        .contains("What can Odile Farrow do in Quillhaven Sea Museum on today");
    assertThat(browser.all(".access tbody th")).hasSizeBetween(5, 40);
    browser.see(".mark-button[data-permission='loan.draft'][data-verdict='allowed']");
  }
}
