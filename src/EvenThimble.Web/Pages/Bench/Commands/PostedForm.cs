using System.Globalization;
using System.Reflection;
using EvenThimble.Core.Text;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Primitives;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Reads a posted form into a record: a field for each parameter of its constructor, by its name. What is missing is null, 0 or false; what is not of its kind is refused in words.</summary>
public static class PostedForm
{
    /// <summary>The record.</summary>
    /// <exception cref="EditRefusedException">A field holds something that it cannot.</exception>
    public static TForm Read<TForm>(IFormCollection form)
    {
        var constructor = Shape<TForm>.Constructor;
        return (TForm)constructor.Invoke([.. constructor.GetParameters().Select(p => Value(p.ParameterType, form[p.Name!]))]);
    }

    private static object? Value(Type type, StringValues posted)
    {
        if (type == typeof(string[])) return posted.OfType<string>().ToArray();
        if (type == typeof(long[])) return posted.Select(v => (long)Number(v)).ToArray();
        if (type == typeof(int[])) return posted.Select(v => (int)Number(v)).ToArray();
        var text = posted.Count == 0 ? null : posted[^1];
        if (type == typeof(string)) return text;
        if (Nullable.GetUnderlyingType(type) is { } underlying) return string.IsNullOrWhiteSpace(text) ? null : Value(underlying, text);
        if (type == typeof(bool)) return bool.TryParse(text, out var yes) && yes;
        if (type == typeof(double)) return string.IsNullOrWhiteSpace(text) ? 0.0 : Number(text);
        if (type == typeof(int)) return string.IsNullOrWhiteSpace(text) ? 0 : (int)Whole(text, int.MaxValue);
        if (type == typeof(long)) return string.IsNullOrWhiteSpace(text) ? 0L : Whole(text, long.MaxValue);
        if (type.IsEnum) return Enum.TryParse(type, text, true, out var value) && Enum.IsDefined(type, value) ? value : throw Refused(text);
        throw new NotSupportedException($"A form cannot have a field of {type}.");
    }

    private static double Number(string? text) => double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) ? number : throw Refused(text);

    private static long Whole(string text, long most) => long.TryParse(text, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var number) && Math.Abs(number) <= most ? number : throw Refused(text);

    private static EditRefusedException Refused(string? text) => new($"“{Titles.Clean(text)}” cannot be understood there. Nothing was changed.");

    private static class Shape<TForm>
    {
        public static readonly ConstructorInfo Constructor = typeof(TForm).GetConstructors().OrderByDescending(c => c.GetParameters().Length).First();
    }
}
