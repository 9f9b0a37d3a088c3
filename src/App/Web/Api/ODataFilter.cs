using System.Globalization;
using System.Linq.Expressions;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Api;

/// <summary>The part of OData that BCF API asks for: <c>$filter</c> with comparisons, <c>and</c>, <c>or</c>, <c>not</c>, parentheses and
/// <c>contains</c>; <c>$orderby</c>, <c>$top</c>, <c>$skip</c> (OData 4.01, URL conventions, 5.1.1).</summary>
/// <typeparam name="T">What is filtered.</typeparam>
/// <param name="fields">The fields that may be named, each with how its value is found.</param>
public sealed class ODataFilter<T>(IReadOnlyDictionary<string, LambdaExpression> fields)
{
    private const int Longest = 2000,
        Deepest = 20;

    private string _text = "";
    private int _at;
    private ParameterExpression _item = null!;

    /// <summary>Reads a condition.</summary>
    /// <exception cref="RefusedException">It is none, or names a field that there is not.</exception>
    public Expression<Func<T, bool>> Where(string text)
    {
        if (text.Length > Longest)
            throw Wrong($"it has more than {Longest} characters");
        (_text, _at, _item) = (text, 0, Expression.Parameter(typeof(T), "x"));
        var body = Or(0);
        Blank();
        if (_at < _text.Length)
            throw Wrong($"'{_text[_at..]}' is not expected");
        return Expression.Lambda<Func<T, bool>>(body, _item);
    }

    /// <summary>Orders by <c>field</c>, <c>field asc</c> or <c>field desc</c>, several separated by commas.</summary>
    public IOrderedQueryable<T> OrderBy(IQueryable<T> items, string text)
    {
        IOrderedQueryable<T>? ordered = null;
        foreach (string part in text.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            string[] words = part.Split(' ', StringSplitOptions.RemoveEmptyEntries);
            if (
                words.Length is 0 or > 2
                || !fields.TryGetValue(words[0], out var field)
                || (words.Length == 2 && words[1].ToLowerInvariant() is not ("asc" or "desc"))
            )
                throw Wrong($"'{part}' is no field to order by; there are {string.Join(", ", fields.Keys)}");
            bool down = words.Length == 2 && words[1].Equals("desc", StringComparison.OrdinalIgnoreCase);
            string method = (ordered is null, down) switch
            {
                (true, false) => nameof(Queryable.OrderBy),
                (true, true) => nameof(Queryable.OrderByDescending),
                (false, false) => nameof(Queryable.ThenBy),
                _ => nameof(Queryable.ThenByDescending),
            };
            ordered =
                (IOrderedQueryable<T>)
                    (ordered ?? items).Provider.CreateQuery<T>(
                        Expression.Call(
                            typeof(Queryable),
                            method,
                            [typeof(T), field.ReturnType],
                            (ordered ?? items).Expression,
                            Expression.Quote(field)
                        )
                    );
        }

        return ordered ?? throw Wrong("nothing to order by is named");
    }

    private Expression Or(int depth)
    {
        var left = And(depth);
        while (Word("or"))
            left = Expression.OrElse(left, And(depth));
        return left;
    }

    private Expression And(int depth)
    {
        var left = Not(depth);
        while (Word("and"))
            left = Expression.AndAlso(left, Not(depth));
        return left;
    }

    private Expression Not(int depth)
    {
        if (depth > Deepest)
            throw Wrong("it is nested too deeply");
        if (Word("not"))
            return Expression.Not(Not(depth + 1));
        Blank();
        if (_at >= _text.Length || _text[_at] != '(')
            return Word("contains") ? Contains() : Comparison();
        _at++;
        var inner = Or(depth + 1);
        Sign(')');
        return inner;
    }

    // contains(labels, 'x'): of a list whether it has the word, of a text whether the word is in it.
    private Expression Contains()
    {
        Sign('(');
        var field = Field();
        Sign(',');
        var value = Expression.Constant(Text());
        Sign(')');
        return field.Type == typeof(string[])
            ? Expression.Call(typeof(Enumerable), nameof(Enumerable.Contains), [typeof(string)], field, value)
            : Expression.Call(field, nameof(string.Contains), null, value);
    }

    private Expression Comparison()
    {
        var field = Field();
        string op = Name();
        var value = Literal(field.Type);
        if (field.Type == typeof(string) && op is not ("eq" or "ne"))
        {
            var compared = Expression.Call(
                typeof(string).GetMethod(nameof(string.Compare), [typeof(string), typeof(string)])!,
                field,
                value
            );
            return Compared(op, compared, Expression.Constant(0));
        }

        return Compared(op, field, value);
    }

    private BinaryExpression Compared(string op, Expression left, Expression right) =>
        op switch
        {
            "eq" => Expression.Equal(left, right),
            "ne" => Expression.NotEqual(left, right),
            "gt" => Expression.GreaterThan(left, right),
            "ge" => Expression.GreaterThanOrEqual(left, right),
            "lt" => Expression.LessThan(left, right),
            "le" => Expression.LessThanOrEqual(left, right),
            _ => throw Wrong($"'{op}' compares nothing; there are eq, ne, gt, ge, lt, le"),
        };

    private Expression Field()
    {
        string name = Name();
        if (!fields.TryGetValue(name, out var field))
            throw Wrong($"'{name}' is no field; there are {string.Join(", ", fields.Keys)}");
        return new Replaced(field.Parameters[0], _item).Visit(field.Body);
    }

    private ConstantExpression Literal(Type type)
    {
        if (Word("null"))
            return Expression.Constant(type == typeof(string) ? "" : null, type);
        if (type == typeof(DateTime) || type == typeof(DateOnly?))
        {
            // datetime'…' is how version 2 of OData spelled it, which BCF API 2.1 shows.
            Word("datetime");
            Blank();
            string text = _at < _text.Length && _text[_at] == '\'' ? Text() : Bare();
            if (
                !DateTimeOffset.TryParse(
                    text,
                    CultureInfo.InvariantCulture,
                    DateTimeStyles.AssumeUniversal,
                    out var date
                )
            )
                throw Wrong($"'{text}' is no date");
            return type == typeof(DateTime)
                ? Expression.Constant(date.UtcDateTime)
                : Expression.Constant(DateOnly.FromDateTime(date.UtcDateTime), typeof(DateOnly?));
        }

        return Expression.Constant(Text());
    }

    private string Name()
    {
        Blank();
        int from = _at;
        while (_at < _text.Length && (char.IsAsciiLetterOrDigit(_text[_at]) || _text[_at] == '_'))
            _at++;
        return from < _at ? _text[from.._at] : throw Wrong("a word is missing");
    }

    private string Bare()
    {
        int from = _at;
        while (_at < _text.Length && _text[_at] is not (' ' or ')' or ','))
            _at++;
        return _text[from.._at];
    }

    private string Text()
    {
        Sign('\'');
        var text = new System.Text.StringBuilder();
        while (_at < _text.Length)
        {
            char c = _text[_at++];
            if (c != '\'')
            {
                text.Append(c);
                continue;
            }

            // Two quotes are one.
            if (_at >= _text.Length || _text[_at] != '\'')
                return text.ToString();
            text.Append('\'');
            _at++;
        }

        throw Wrong("a text does not end");
    }

    private bool Word(string word)
    {
        Blank();
        int end = _at + word.Length;
        if (
            end > _text.Length
            || !_text.AsSpan(_at, word.Length).Equals(word, StringComparison.OrdinalIgnoreCase)
            || (end < _text.Length && (char.IsAsciiLetterOrDigit(_text[end]) || _text[end] == '_'))
        )
            return false;
        _at = end;
        return true;
    }

    private void Sign(char sign)
    {
        Blank();
        if (_at >= _text.Length || _text[_at] != sign)
            throw Wrong($"'{sign}' is missing");
        _at++;
    }

    private void Blank()
    {
        while (_at < _text.Length && _text[_at] == ' ')
            _at++;
    }

    private static RefusedException Wrong(string why) =>
        new(RefusalKind.Wrong, $"The filter or order cannot be used: {why}.");

    private sealed class Replaced(ParameterExpression from, ParameterExpression to) : ExpressionVisitor
    {
        protected override Expression VisitParameter(ParameterExpression node) => node == from ? to : node;
    }
}
