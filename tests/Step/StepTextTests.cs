using System.Text;
using CsCheck;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

public class StepTextTests
{
    // ISO 10303-21:2016, clause 6.4.3 and its examples of control directives.
    [Theory]
    [InlineData("CAT", "CAT")]
    [InlineData("Don''t", "Don't")]
    [InlineData("''", "'")]
    [InlineData("a\\\\b", "a\\b")]
    [InlineData("line\\N\\feed", "line\nfeed")]
    [InlineData("\\S\\Drger", "Ärger")]
    [InlineData("h\\S\\ttel", "hôtel")]
    [InlineData("see \\X\\A7 4.1", "see § 4.1")]
    [InlineData("\\X2\\03C0\\X0\\ is 3", "π is 3")]
    [InlineData("\\X2\\00C400D6\\X0\\", "ÄÖ")]
    [InlineData("\\X4\\0001F600\\X0\\", "😀")]
    [InlineData("\\PE\\\\S\\*\\S\\U", "Ње")]
    public void Directives_give_the_text_of_the_standard(string coded, string text) =>
        Assert.Equal(text, StepText.Decode(Encoding.ASCII.GetBytes(coded)));

    [Theory]
    [InlineData("\\X2\\00")]
    [InlineData("\\X\\G1")]
    [InlineData("tail\\")]
    [InlineData("\\Q\\")]
    public void Broken_directives_are_kept_as_they_stand(string coded) =>
        Assert.StartsWith(coded[..1], StepText.Decode(Encoding.ASCII.GetBytes(coded)));

    [Fact]
    public void Raw_utf8_and_latin1_are_both_read()
    {
        Assert.Equal("Tür", StepText.Decode(Encoding.UTF8.GetBytes("Tür")));
        Assert.Equal("Tür", StepText.Decode(Encoding.Latin1.GetBytes("Tür")));
    }

    [Fact]
    public void Every_text_survives_writing_and_reading() =>
        Gen
            .String.Where(s => !HasLoneSurrogate(s))
            .Sample(text =>
            {
                string coded = StepText.Encode(text);
                return coded.All(c => c is >= ' ' and < '\u007F')
                    && StepText.Decode(Encoding.ASCII.GetBytes(coded)) == text;
            });

    private static bool HasLoneSurrogate(string text) =>
        text.EnumerateRunes().Any(r => r.Value == 0xFFFD)
        || Encoding.UTF8.GetString(Encoding.UTF8.GetBytes(text)) != text;
}
