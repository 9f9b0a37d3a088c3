using System.Text.Json;
using CsCheck;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>Lengths are read and written as people write them.</summary>
public class LengthTests
{
    // The international foot is 0.3048 m (1959 agreement of six national laboratories); the fractions are arithmetic.
    [Theory]
    [InlineData("16'-2 3/4\"", (16 * 12) + 2.75)]
    [InlineData("16' 2.75", (16 * 12) + 2.75)]
    [InlineData("16'2 3/4", (16 * 12) + 2.75)]
    [InlineData("16’–2 ¾”", (16 * 12) + 2.75)]
    [InlineData("1'", 12)]
    [InlineData("-0'-6\"", -6)]
    [InlineData("−6\"", -6)]
    [InlineData("3/4\"", 0.75)]
    [InlineData("2-1/2\"", 2.5)]
    [InlineData("0'-0 1/64\"", 1.0 / 64)]
    [InlineData("5 ft", 60)]
    [InlineData("5ft 6in", 66)]
    [InlineData("6.5 in", 6.5)]
    [InlineData("116'-2 3/4\"", (116 * 12) + 2.75)]
    public void Feet_and_inches_are_read(string text, double inches) =>
        Assert.Equal(inches * 0.0254, LengthText.Read(text), 12);

    [Theory]
    [InlineData("4.96 m", 4.96)]
    [InlineData("4964 mm", 4.964)]
    [InlineData("4964mm", 4.964)]
    [InlineData("12 cm", 0.12)]
    [InlineData("-1.2", -1.2)]
    [InlineData("4,96 m", 4.96)]
    [InlineData(".5", 0.5)]
    public void Metres_are_read(string text, double metres) => Assert.Equal(metres, LengthText.Read(text), 12);

    [Fact]
    public void A_bare_number_is_in_the_readers_unit()
    {
        Assert.Equal(15.521, LengthText.Read("15521", LengthNotation.Millimetres), 12);
        Assert.Equal(3.048, LengthText.Read("10", LengthNotation.FeetAndInches), 12);
    }

    [Theory]
    [InlineData("")]
    [InlineData("abc")]
    [InlineData("'")]
    [InlineData("\"")]
    [InlineData("-")]
    [InlineData("1/0\"")]
    [InlineData("12 34")]
    [InlineData("1e400")]
    [InlineData("5 parsec")]
    [InlineData("15,521")]
    [InlineData("1,234.5")]
    public void What_is_no_length_or_can_mean_two_is_refused_with_a_way_to_write_it(string text) =>
        Assert.Contains(
            "write it",
            Assert.Throws<FormatException>(() => LengthText.Read(text)).Message,
            StringComparison.Ordinal
        );

    // Common practice: 16'-2 3/4" − 14'-9 1/16" = 1'-5 11/16"; a base point at −100 ft makes 116'-2 3/4" of 16'-2 3/4".
    [Fact]
    public void Lengths_add_up_as_on_site()
    {
        double a = LengthText.Read("16'-2 3/4\"");
        Assert.Equal(
            "1'-5 11/16\"",
            LengthText.Write(a - LengthText.Read("14'-9 1/16\""), LengthNotation.FeetAndInches)
        );
        Assert.Equal("116'-2 3/4\"", LengthText.Write(a - LengthText.Read("-100'"), LengthNotation.FeetAndInches));
        Assert.Equal(
            ("4.947 m", "4947 mm"),
            (LengthText.Write(a, LengthNotation.Metres), LengthText.Write(a, LengthNotation.Millimetres))
        );
        Assert.Equal("-0'-6\"", LengthText.Write(-0.1524, LengthNotation.FeetAndInches));
        Assert.Equal(
            ("0'-0\"", "0.000 m"),
            (LengthText.Write(-1e-9, LengthNotation.FeetAndInches), LengthText.Write(-1e-9, LengthNotation.Metres))
        );
    }

    [Fact]
    public void What_is_written_in_64ths_is_read_back_as_it_was() =>
        Gen.Int[-10_000_000, 10_000_000]
            .Sample(n =>
            {
                double metres = n / 64.0 * 0.0254;
                string text = LengthText.Write(metres, LengthNotation.FeetAndInches);
                return Math.Abs(LengthText.Read(text) - metres) < 1e-9
                    && LengthText.Write(LengthText.Read(text), LengthNotation.FeetAndInches) == text;
            });

    // The browser's script is held to the same table by tests/Script/length.test.js.
    [Fact]
    public void Lengths_and_heights_read_as_in_the_browser()
    {
        using var table = JsonDocument.Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "lengths.json")));
        foreach (var row in table.RootElement.EnumerateArray())
        {
            double metres = row.GetProperty("metres").GetDouble();
            foreach (
                var (word, notation) in new[]
                {
                    ("m", LengthNotation.Metres),
                    ("mm", LengthNotation.Millimetres),
                    ("ft", LengthNotation.FeetAndInches),
                }
            )
            {
                Assert.Equal(row.GetProperty(word).GetString(), LengthText.Write(metres, notation));
                Assert.Equal(
                    row.GetProperty("height").GetProperty(word).GetString(),
                    LengthText.WriteHeight(metres, notation)
                );
            }
        }
    }
}
