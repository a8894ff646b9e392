package mandala.e2e;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import mandala.core.model.key.PrincipalKey;
import mandala.server.session.DemoCredentials;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebDriverException;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.chrome.ChromeDriver;
import org.openqa.selenium.chrome.ChromeDriverService;
import org.openqa.selenium.chrome.ChromeOptions;
import org.openqa.selenium.support.ui.WebDriverWait;
import org.springframework.jdbc.core.JdbcTemplate;

/** A headless Chromium, and what a person does with it. */
final class Browser implements AutoCloseable {

  private static final Duration PATIENCE = Duration.ofSeconds(20);

  private final ChromeDriver driver;
  private final String address;
  private final Runnable freshCodes;

  /** A browser for an application whose codes of second factors count again when it signs in. */
  Browser(Application application) throws IOException {
    address = application.address();
    freshCodes =
        () ->
            application
                .part(JdbcTemplate.class)
                .update("update credential set totp_last_step = -1");
    ChromeOptions options = new ChromeOptions();
    options.setBinary("/usr/bin/chromium");
    options.addArguments(
        "--headless=new",
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--disable-dev-shm-usage",
        "--hide-scrollbars",
        "--force-device-scale-factor=1",
        "--window-size=1280,800",
        "--force-prefers-reduced-motion",
        "--user-data-dir=" + Files.createTempDirectory("mandala-browser"));
    driver =
        new ChromeDriver(
            new ChromeDriverService.Builder()
                .usingDriverExecutable(new java.io.File("/usr/bin/chromedriver"))
                .build(),
            options);
    driver.executeCdpCommand(
        "Emulation.setDeviceMetricsOverride",
        Map.of("width", 1280, "height", 800, "deviceScaleFactor", 1, "mobile", false));
    // how many times slower than this machine the browser is to be, to find races
    int slowdown = Integer.getInteger("mandala.browser.slowdown", 1);
    if (slowdown > 1) {
      driver.executeCdpCommand("Emulation.setCPUThrottlingRate", Map.of("rate", slowdown));
    }
  }

  void open(String path) {
    driver.get(address + path);
  }

  String address() {
    return driver.getCurrentUrl().substring(address.length());
  }

  void reload() {
    driver.navigate().refresh();
  }

  /** Waits for something to be in sight and gives it. */
  WebElement see(String css) {
    return new WebDriverWait(driver, PATIENCE)
        .ignoring(WebDriverException.class) // the page is being drawn anew
        .withMessage(() -> css + " at " + address() + " in: " + text())
        .until(it ->
            it.findElements(By.cssSelector(css)).stream()
                .filter(WebElement::isDisplayed)
                .findFirst()
                .orElse(null));
  }

  /** Waits until the page says something. */
  void read(String words) {
    new WebDriverWait(driver, PATIENCE)
        .ignoring(WebDriverException.class) // the page is being drawn anew
        .withMessage(() -> "'" + words + "' at " + address() + " in: " + text())
        .until(_ -> text().contains(words));
  }

  /** Waits until the page does not say something any more. */
  void readNoMore(String words) {
    new WebDriverWait(driver, PATIENCE)
        .ignoring(WebDriverException.class) // the page is being drawn anew
        .withMessage(() -> "still '" + words + "' at " + address())
        .until(_ -> !text().contains(words));
  }

  String text() {
    return driver.findElement(By.tagName("body")).getText();
  }

  List<String> all(String css) {
    return driver.findElements(By.cssSelector(css)).stream().map(WebElement::getText).toList();
  }

  /** Clicks what is in sight; what is drawn anew meanwhile is looked for again. */
  void click(String css) {
    new WebDriverWait(driver, PATIENCE)
        .ignoring(WebDriverException.class)
        .withMessage(() -> "click " + css + " at " + address() + " in: " + text())
        .until(_ -> {
          WebElement element = see(css);
          if (!element.isEnabled()) {
            return false; // it can't be pressed yet
          }
          element.click();
          return true;
        });
  }

  /** Clicks the button or option with a text. */
  void choose(String css, String words) {
    new WebDriverWait(driver, PATIENCE)
        .ignoring(WebDriverException.class)
        .ignoring(NoSuchElementException.class)
        .withMessage(() -> css + " '" + words + "' at " + address() + " in: " + text())
        .until(it -> {
          it.findElements(By.cssSelector(css)).stream()
              .filter(element ->
                  element.isDisplayed() && element.isEnabled() && element.getText().contains(words))
              .findFirst()
              .orElseThrow()
              .click();
          return true;
        });
  }

  /** Searches in the picker that is open, and chooses what has a name. */
  void pick(String words, String name) {
    type(".ant-popover:not(.ant-popover-hidden) input[role=combobox]", words);
    choose(".ant-select-item-option", name);
  }

  /** Opens a field of a form, and chooses what has a name in its picker. */
  void fill(String field, String name) {
    click(".ant-modal button[data-field='" + field + "']");
    pick(name, name);
  }

  /** Assigns a role to somebody in a place and everything below it, in the open draft. */
  void assign(String person, String role, String place) {
    open("/people/" + person);
    choose("main header button", "Assign");
    fill("What", role);
    click(".ant-modal button[data-field='Where']");
    choose(".ant-select-item-option", "A place and everything below it");
    pick(place, place);
    choose(".ant-modal button", "Add to draft");
    gone(".ant-modal-wrap:not([style*='none']) [class*='composer']");
  }

  void type(String css, String words) {
    new WebDriverWait(driver, PATIENCE)
        .ignoring(WebDriverException.class) // it is still coming into sight
        .withMessage(() -> "type into " + css + " at " + address() + " in: " + text())
        .until(_ -> {
          WebElement element = see(css);
          // not clear(): it leaves the field, and a title takes its name back then
          element.sendKeys(Keys.chord(Keys.CONTROL, "a"), Keys.DELETE);
          element.sendKeys(words);
          return true;
        });
  }

  /** Gives a file to a field, which may be hidden behind its button. */
  void upload(String css, Path file) {
    new WebDriverWait(driver, PATIENCE)
        .ignoring(WebDriverException.class)
        .until(it -> it.findElement(By.cssSelector(css)))
        .sendKeys(file.toString());
  }

  void press(CharSequence keys) {
    driver.switchTo().activeElement().sendKeys(keys);
  }

  Object script(String code, Object... arguments) {
    return driver.executeScript(code, arguments);
  }

  /** Runs code that calls its last argument when it is done. {@return what it was called with} */
  Object wait(String code) {
    driver.manage().timeouts().scriptTimeout(Duration.ofMinutes(1));
    return driver.executeAsyncScript(code);
  }

  /** Makes the window as large as a screen, in pixels. */
  void resize(int width, int height) {
    driver.executeCdpCommand(
        "Emulation.setDeviceMetricsOverride",
        Map.of("width", width, "height", height, "deviceScaleFactor", 1, "mobile", false));
  }

  /** Forgets who is signed in, as if the session had ended. */
  void loseSession() {
    driver.manage().deleteCookieNamed("MANDALA");
  }

  void forget() {
    driver.manage().deleteAllCookies();
  }

  /** Waits until nothing fits any more. */
  void gone(String css) {
    new WebDriverWait(driver, PATIENCE)
        .withMessage(() -> "still " + css + " at " + address())
        .until(it -> it.findElements(By.cssSelector(css)).isEmpty());
  }

  void focus(String css) {
    see(css);
    script("document.querySelector(arguments[0]).focus()", css);
  }

  void blur() {
    script("document.activeElement.blur()");
  }

  /** Goes on as somebody who is signed in already, or signs in: codes count only once. */
  void beSignedInAs(String name) {
    open("/");
    see("[data-self], form[aria-label='Sign in']");
    if (driver.findElements(By.cssSelector("[data-self='" + name + "']")).isEmpty()) {
      signInAs(name);
    }
  }

  /** Chooses somebody of the demo and signs in, whichever codes were used just now. */
  void signInAs(String name) {
    forget();
    freshCodes.run();
    open("/");
    see("form[aria-label='Sign in']");
    script("localStorage.clear(); sessionStorage.clear()"); // what an earlier journey chose
    choose("[data-person]", name);
    click("form[aria-label='Sign in'] button[type=submit]");
    if (!name.equals(see("[data-self], .problem").getDomAttribute("data-self"))) {
      throw new IllegalStateException("Signing in as " + name + " failed: " + text());
    }
  }

  /** Applies the draft in view with the second factor of its owner, a person of the demo. */
  void applyDraft(String owner) {
    see("input#proof");
    freshCodes.run();
    type("input#proof", DemoCredentials.codeOf(new PrincipalKey(owner), Instant.now()));
    click("section[aria-label='Apply'] button[type=submit]");
    read("Revert in a new draft");
  }

  @Override
  public void close() {
    driver.quit();
  }
}
