package mandala.e2e;

import java.io.IOException;
import java.nio.file.Files;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import org.openqa.selenium.By;
import org.openqa.selenium.StaleElementReferenceException;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.chrome.ChromeDriver;
import org.openqa.selenium.chrome.ChromeDriverService;
import org.openqa.selenium.chrome.ChromeOptions;
import org.openqa.selenium.support.ui.WebDriverWait;

/** A headless Chromium, and what a person does with it. */
final class Browser implements AutoCloseable {

  private static final Duration PATIENCE = Duration.ofSeconds(20);

  private final ChromeDriver driver;
  private final String address;

  Browser(String address) throws IOException {
    this.address = address;
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
        .ignoring(StaleElementReferenceException.class)
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
        .ignoring(StaleElementReferenceException.class)
        .withMessage(() -> "'" + words + "' at " + address() + " in: " + text())
        .until(_ -> text().contains(words));
  }

  /** Waits until the page does not say something any more. */
  void readNoMore(String words) {
    new WebDriverWait(driver, PATIENCE)
        .ignoring(StaleElementReferenceException.class)
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
        .ignoring(org.openqa.selenium.WebDriverException.class)
        .withMessage(() -> "click " + css + " at " + address() + " in: " + text())
        .until(_ -> {
          see(css).click();
          return true;
        });
  }

  /** Clicks the button or option with a text. */
  void choose(String css, String words) {
    new WebDriverWait(driver, PATIENCE)
        .ignoring(org.openqa.selenium.WebDriverException.class)
        .ignoring(NoSuchElementException.class)
        .withMessage(() -> css + " '" + words + "' at " + address() + " in: " + text())
        .until(it -> {
          it.findElements(By.cssSelector(css)).stream()
              .filter(element -> element.isDisplayed() && element.getText().contains(words))
              .findFirst()
              .orElseThrow()
              .click();
          return true;
        });
  }

  void type(String css, String words) {
    WebElement element = see(css);
    element.clear();
    element.sendKeys(words);
  }

  void press(CharSequence keys) {
    driver.switchTo().activeElement().sendKeys(keys);
  }

  Object script(String code, Object... arguments) {
    return driver.executeScript(code, arguments);
  }

  /** Forgets who is signed in, as if the session had ended. */
  void loseSession() {
    driver.manage().deleteCookieNamed("MANDALA");
  }

  void forget() {
    driver.manage().deleteAllCookies();
  }

  /** Chooses somebody of the demo and signs in. */
  void signInAs(String name) {
    forget();
    open("/");
    see("form[aria-label='Sign in']");
    choose(".demo-people button", name);
    click("form[aria-label='Sign in'] button[type=submit]");
    see(".who");
  }

  @Override
  public void close() {
    driver.quit();
  }
}
