using System.Text;
using CsCheck;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

public class StepNumberTests
{
    [Theory]
    [InlineData("1.", 1)]
    [InlineData("-0.5", -0.5)]
    [InlineData("+12", 12)]
    [InlineData("1.E-05", 1e-5)]
    [InlineData("1.5E+3", 1500)]
    [InlineData("0.30480000000000002", 0.3048)]
    [InlineData("123456789012345678901234567890.", 1.2345678901234568e29)]
    public void Numbers_of_the_standard_are_read(string text, double expected)
    {
        Assert.True(StepNumber.TryParse(Encoding.ASCII.GetBytes(text), out double value));
        Assert.Equal(expected, value);
    }

    [Theory]
    [InlineData("")]
    [InlineData("-")]
    [InlineData(".")]
    [InlineData("1E")]
    [InlineData("abc")]
    [InlineData("1.2.3")]
    [InlineData("1e999")]
    public void What_is_no_number_is_refused(string text) =>
        Assert.False(StepNumber.TryParse(Encoding.ASCII.GetBytes(text), out _));

    [Fact]
    public void Every_finite_real_reads_back_the_same() =>
        Gen
            .Double.Where(double.IsFinite)
            .Sample(value =>
                StepNumber.TryParse(Encoding.ASCII.GetBytes(StepNumber.Format(value)), out double again)
                && again.Equals(value)
            );

    [Fact]
    public void The_fast_way_agrees_with_the_framework() =>
        Gen.Select(Gen.Long[-99_999_999_999, 99_999_999_999], Gen.Int[0, 12])
            .Sample(
                (digits, shift) =>
                {
                    string text = (digits / Math.Pow(10, shift)).ToString(
                        "F" + shift,
                        System.Globalization.CultureInfo.InvariantCulture
                    );
                    return StepNumber.TryParse(Encoding.ASCII.GetBytes(text), out double value)
                        && value == double.Parse(text, System.Globalization.CultureInfo.InvariantCulture);
                }
            );

    [Fact]
    public void Reals_carry_their_full_stop() =>
        Assert.Equal(["1.", "0.1", "1.E+20", "-2.5E-07"], new[] { 1, 0.1, 1e20, -2.5e-7 }.Select(StepNumber.Format));
}
