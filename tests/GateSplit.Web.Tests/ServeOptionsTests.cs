using GateSplit.Web.Hosting;

namespace GateSplit.Web.Tests;

public sealed class ServeOptionsTests
{
    [Fact]
    public void Nothing_said_is_the_documented_port_with_demo_data()
    {
        var options = ServeOptions.Read([], _ => "Host=x").Value!;
        Assert.Equal((5380, "Host=x", true), (options.Port, options.ConnectionString, options.Demo));
    }

    [Fact]
    public void All_can_be_said()
    {
        var options = ServeOptions.Read(["--port", "6000", "--data", "/tmp/x", "--no-demo", "--quick-demo"], _ => "Host=x").Value!;
        Assert.Equal((6000, "/tmp/x", false, true), (options.Port, options.DataFolder, options.Demo, options.QuickDemo));
    }

    [Theory]
    [InlineData("--port", "many")]
    [InlineData("--port", "70000")]
    [InlineData("--colour", "blue")]
    public void What_is_not_understood_is_told(params string[] arguments) =>
        Assert.EndsWith(".", ServeOptions.Read(arguments, _ => "Host=x").Trouble);

    [Fact]
    public void It_listens_on_this_machine_alone_and_says_why()
    {
        Assert.True(ServeOptions.Read(["--listen", "127.0.0.1"], _ => "Host=x").Ok);
        Assert.True(ServeOptions.Read(["--listen", "localhost"], _ => "Host=x").Ok);
        Assert.StartsWith("Gate Split does not listen on 0.0.0.0: nobody signs in yet", ServeOptions.Read(["--listen", "0.0.0.0"], _ => "Host=x").Trouble);
        Assert.EndsWith(".", ServeOptions.Read(["--listen"], _ => "Host=x").Trouble);
    }

    [Theory]
    [InlineData("0.0.0.0", "0.0.0.0:6001")]
    [InlineData("192.0.2.7:7000", "192.0.2.7:7000")]
    public void Sheets_are_shown_to_phones_where_it_is_said(string said, string at) =>
        Assert.Equal(at, $"{ServeOptions.Read(["--port", "6000", "--sheets", said], _ => "Host=x").Value!.Sheets}");

    [Fact]
    public void Sheets_are_shown_nowhere_unless_it_is_said_with_an_address()
    {
        Assert.Null(ServeOptions.Read([], _ => "Host=x").Value!.Sheets);
        Assert.StartsWith("--sheets needs the address", ServeOptions.Read(["--sheets", "everywhere"], _ => "Host=x").Trouble);
        Assert.StartsWith("--sheets needs the address", ServeOptions.Read(["--sheets"], _ => "Host=x").Trouble);
    }

    [Fact]
    public void Without_a_database_it_says_how_to_get_one() => Assert.Contains("GATESPLIT_DB", ServeOptions.Read([], _ => null).Trouble);
}
