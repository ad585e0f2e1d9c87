using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Support.UI;

namespace GateSplit.Browser.Tests;

/// <summary>Headless Chromium with waits in words.</summary>
public sealed class Browser : IDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromMinutes(5);
    private readonly string _profile = Directory.CreateTempSubdirectory("gate-split-chromium-").FullName;
    private readonly ChromeDriver _driver;
    private readonly Uri _home;

    /// <summary>Opens it.</summary>
    /// <param name="port">Of the application.</param>
    /// <param name="script">False to switch script off.</param>
    public Browser(int port, bool script = true)
    {
        _home = new Uri($"http://127.0.0.1:{port}");
        Downloads = Directory.CreateDirectory(Path.Combine(_profile, "downloads")).FullName;
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments(
            "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
            "--disable-component-update", "--disable-sync", "--window-size=1280,800", "--autoplay-policy=no-user-gesture-required",
            $"--user-data-dir={_profile}");
        options.AddUserProfilePreference("download.default_directory", Downloads);
        if (!script)
        {
            options.AddUserProfilePreference("profile.managed_default_content_settings.javascript", 2);
        }

        options.SetLoggingPreference(LogType.Browser, OpenQA.Selenium.LogLevel.Warning);
        _driver = new ChromeDriver(ChromeDriverService.CreateDefaultService("/usr/bin/chromedriver"), options);
    }

    /// <summary>The driver for anything else.</summary>
    public ChromeDriver Driver => _driver;

    /// <summary>Where downloads land.</summary>
    public string Downloads { get; }

    /// <summary>What the page complained about to its console.</summary>
    public IReadOnlyList<string> Complaints =>
        [.. _driver.Manage().Logs.GetLog(LogType.Browser).Select(e => e.Message).Where(m => !m.Contains("favicon"))];

    /// <summary>Goes to a page.</summary>
    public void Open(string path) => _driver.Navigate().GoToUrl(new Uri(_home, path));

    /// <summary>The one element of a selector, waited for.</summary>
    public IWebElement Find(string css) => Until(() => _driver.FindElements(By.CssSelector(css)).FirstOrDefault(), $"there is {css}");

    /// <summary>All elements of a selector, now.</summary>
    public IReadOnlyList<IWebElement> All(string css) => _driver.FindElements(By.CssSelector(css));

    /// <summary>Does something to the one element of a selector, waited for; again, if the page took it away just before.</summary>
    public void Do(string css, Action<IWebElement> act) => WaitUntil(
        () =>
        {
            act(_driver.FindElement(By.CssSelector(css)));
            return true;
        },
        $"there is {css}");

    /// <summary>Clicks.</summary>
    public void Click(string css) => Do(css, e => e.Click());

    /// <summary>Clicks what something else may lie over.</summary>
    public void ClickCovered(string css) => Do(css, e => _driver.ExecuteScript("arguments[0].click()", e));

    /// <summary>Types into a field after what is there.</summary>
    public void Send(string css, string keys) => Do(css, e => e.SendKeys(keys));

    /// <summary>Chooses in a list.</summary>
    public void Choose(string css, Action<SelectElement> choice) => Do(css, e => choice(new SelectElement(e)));

    /// <summary>Clicks the button or link with this text.</summary>
    public void ClickButton(string text) => WaitUntil(
        () =>
        {
            var button = All("button, a.btn").FirstOrDefault(b => b.Displayed && b.Text == text) ?? throw new NoSuchElementException();

            // The status line lies over what is at the very bottom.
            _driver.ExecuteScript("arguments[0].scrollIntoView({ block: 'center' })", button);
            button.Click();
            return true;
        },
        $"there is a button {text}");

    /// <summary>What the one element of a selector says, waited for.</summary>
    public string TextOf(string css) => Until(() => _driver.FindElement(By.CssSelector(css)).Text, $"there is {css}");

    /// <summary>All text of the page.</summary>
    public string Text => Once(() => _driver.FindElement(By.TagName("body")).Text);

    /// <summary>Waits until something holds.</summary>
    public void WaitUntil(Func<bool> condition, string what) => Until(() => condition() ? "yes" : null, what);

    /// <summary>Waits until a page that is there whole has no such element: while another one loads, none has any.</summary>
    public void WaitUntilGone(string css, string what) => WaitUntil(
        () => _driver.ExecuteScript("return document.readyState === 'complete' && document.querySelector(arguments[0]) === null", css) is true, what);

    /// <summary>Types into a field in place of what is there, and presses Enter: it takes effect then.</summary>
    public void Type(string css, string text) => Send(css, Keys.Control + "a" + Keys.Null + text + Keys.Enter);

    /// <summary>Presses keys where the focus is.</summary>
    public void Press(string keys) => new OpenQA.Selenium.Interactions.Actions(_driver).SendKeys(keys).Perform();

    /// <summary>Closes it.</summary>
    public void Dispose()
    {
        _driver.Dispose();
        Directory.Delete(_profile, recursive: true);
    }

    private static T Once<T>(Func<T> read)
    {
        try
        {
            return read();
        }
        catch (StaleElementReferenceException)
        {
            return read();
        }
    }

    private T Until<T>(Func<T?> find, string what)
        where T : class
    {
        var wait = new WebDriverWait(_driver, Patience) { Message = $"waited until {what}", PollingInterval = TimeSpan.FromMilliseconds(80) };
        wait.IgnoreExceptionTypes(typeof(StaleElementReferenceException), typeof(NoSuchElementException));
        return wait.Until(_ => find())!;
    }
}
