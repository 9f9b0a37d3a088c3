using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Rules over numbers at their bounds, codes of classifications, and parts of what is chosen.</summary>
public class MeasureRuleTests
{
    private static SelectionSubject Subject(string type = "IfcBeam", string id = "") =>
        new(IfcSchema.For("IFC4")!, "", type, [], id);

    private static bool Between(string low, string high, string value, string unit) =>
        new SelectionRule(SelectionVerb.Only, RuleField.Property, [low, high], "A.B")
        {
            Test = RuleTest.Between,
        }.Matches(Subject() with { Property = _ => [new PropertyText(value, unit)] });

    // The bounds belong to the range, and what lies a thousandth outside does not. Units are exact by definition (international foot 1959).
    [Theory]
    [InlineData("0.9", "1.2", "900", "mm", true)]
    [InlineData("0.9", "1.2", "1200", "mm", true)]
    [InlineData("0.9", "1.2", "899", "mm", false)]
    [InlineData("0.9", "1.2", "1201", "mm", false)]
    [InlineData("0.9", "1.2", "0.9", "m", true)]
    [InlineData("0.9", "1.2", "3", "ft", true)]
    [InlineData("900 mm", "1.2 m", "1", "m", true)]
    [InlineData("3'-0\"", "4'-0\"", "914.4", "mm", true)]
    [InlineData("3'-0\"", "4'-0\"", "914.3", "mm", false)]
    [InlineData("1 m", "2 m", "1.5", "m²", false)]
    [InlineData("1 m²", "2 m²", "15000", "cm²", true)]
    [InlineData("10", "20", "15", "dB", true)]
    [InlineData("10", "20", "20", "", true)]
    [InlineData("10", "20", "20.0001", "", false)]
    [InlineData("", "20", "-5", "", true)]
    [InlineData("10", "", "1e9", "", true)]
    [InlineData("10", "20", "fifteen", "", false)]
    public void A_range_counts_in_the_unit_written_or_in_metres(
        string low,
        string high,
        string value,
        string unit,
        bool inside
    ) => Assert.Equal(inside, Between(low, high, value, unit));

    [Theory]
    [InlineData("0.5", true)]
    [InlineData("0.4999", false)]
    [InlineData("2", true)]
    [InlineData("2.0001", false)]
    public void The_size_of_a_body_lies_between_both_bounds(string metres, bool inside)
    {
        double size = double.Parse(metres, System.Globalization.CultureInfo.InvariantCulture);
        var rule = new SelectionRule(SelectionVerb.Only, RuleField.Size, ["500 mm", "2"]) { Test = RuleTest.Between };
        var subject = Subject() with
        {
            Body = () => SubjectBody.Of(new ItemBody(Box.Of([Vec3.Zero, new(1, 1, 1)]), null, size), null),
        };
        Assert.Equal(inside, rule.Matches(subject));
    }

    // Directions from 170 to 10 degrees run through north.
    [Theory]
    [InlineData("30", "60", 30, true)]
    [InlineData("30", "60", 60, true)]
    [InlineData("30", "60", 29.99, false)]
    [InlineData("30", "60", 60.01, false)]
    [InlineData("170", "10", 175, true)]
    [InlineData("170", "10", 5, true)]
    [InlineData("170", "10", 10.01, false)]
    [InlineData("170", "10", 90, false)]
    public void A_bearing_lies_between_both_bounds(string low, string high, double bearing, bool inside)
    {
        var rule = new SelectionRule(SelectionVerb.Only, RuleField.Bearing, [low, high]) { Test = RuleTest.Between };
        Assert.Equal(
            inside,
            rule.Matches(
                Subject() with
                {
                    Body = () => SubjectBody.Of(new ItemBody(Box.Of([Vec3.Zero, new(1, 1, 1)]), bearing, 1), null),
                }
            )
        );
    }

    // A wall from 3 to 6 reaches into what lies above 5.9; it only touches what begins at 6.
    [Theory]
    [InlineData("5.9", "9", true)]
    [InlineData("6", "9", false)]
    [InlineData("0", "3", false)]
    [InlineData("0", "3.1", true)]
    [InlineData("", "", true)]
    public void A_body_reaches_into_heights_and_does_not_touch_them(string low, string high, bool reaches)
    {
        var rule = new SelectionRule(SelectionVerb.Only, RuleField.Height, [low, high]) { Test = RuleTest.Between };
        var body = SubjectBody.Of(new ItemBody(Box.Of([new(0, 0, 3), new(1, 1, 6)]), null, 3), null);
        Assert.Equal(reaches, rule.Matches(Subject() with { Body = () => body }));
    }

    [Theory]
    [InlineData("Ss_25", "Ss_25_10", true)]
    [InlineData("Ss_25", "Ss_25", true)]
    [InlineData("Ss_2", "Ss_25_10", false)]
    [InlineData("B10", "B10.20", true)]
    [InlineData("23-13", "23-13 11 00", true)]
    [InlineData("Uniclass", "Uniclass", true)]
    [InlineData("Ss_25_10", "Ss_25", false)]
    public void A_code_takes_in_the_codes_below_it(string wanted, string has, bool chosen)
    {
        var rule = new SelectionRule(SelectionVerb.Only, RuleField.Classification, [wanted]);
        Assert.Equal(chosen, rule.Matches(Subject() with { Classifications = [has] }));
    }

    [Fact]
    public void The_parts_of_a_chosen_assembly_come_along_and_stay_where_rules_leave_out()
    {
        var whole = Subject("IfcStair", "S");
        var part = Subject("IfcStairFlight", "F") with { Wholes = () => [whole] };
        Assert.True(new SelectionRule(SelectionVerb.Only, RuleField.Class, ["IfcStair"]).Matches(part));
        Assert.True(new SelectionRule(SelectionVerb.With, RuleField.GlobalId, ["S"]).Matches(part));
        Assert.False(new SelectionRule(SelectionVerb.Without, RuleField.Class, ["IfcStair"]).Matches(part));
        Assert.False(
            new SelectionRule(SelectionVerb.Only, RuleField.Class, ["IfcStair"]) { Test = RuleTest.Exactly }.Matches(
                part
            )
        );
        Assert.False(new SelectionRule(SelectionVerb.Only, RuleField.Class, ["IfcWall"]).Matches(part));
    }
}
