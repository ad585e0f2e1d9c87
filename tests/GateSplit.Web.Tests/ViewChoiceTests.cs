using GateSplit.Web.Pages;

namespace GateSplit.Web.Tests;

/// <summary>How a split is looked at goes into a cookie and comes back; nothing in a cookie can do harm.</summary>
public sealed class SplitLookTests
{
    [Fact]
    public void Every_switch_comes_back_from_the_cookie_as_it_was()
    {
        var look = ViewChoice.Plain
            .After("mend", [])
            .After("fit", [])
            .After("fold:u1/Group A|B", [])
            .After("fold:u2/Höfe; path=/", [])
            .After("pass:3", []);
        var again = ViewChoice.Read(look.Write());
        Assert.True(again.OnlyToMend && again.Fits);
        Assert.Equal(["u1/Group A|B", "u2/Höfe; path=/"], again.Folded);
        Assert.Equal(3, again.Pass);
        Assert.DoesNotContain(';', look.Write());
    }

    [Fact]
    public void A_switch_turned_twice_is_as_before_and_all_groups_fold_at_once()
    {
        string[] groups = ["u1/A", "u1/B"];
        Assert.Equal("", ViewChoice.Plain.After("mend", []).After("mend", []).Write());
        Assert.Equal("", ViewChoice.Plain.After("fold:u1/A", groups).After("fold:u1/A", groups).Write());
        Assert.Equal(groups, ViewChoice.Plain.After("fold-all", groups).Folded);
        Assert.Empty(ViewChoice.Plain.After("fold-all", groups).After("unfold-all", groups).Folded);
        Assert.Equal("", ViewChoice.Plain.After("dance", groups).Write());
    }

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData("|||")]
    [InlineData("passion|mendacious|/%ZZ")]
    [InlineData("pass99999999999999999999")]
    public void An_odd_cookie_shows_the_split_in_full(string? cookie)
    {
        var look = ViewChoice.Read(cookie);
        Assert.False(look.OnlyToMend || look.Fits);
        Assert.Null(look.Pass);
    }
}
