-- What a film may lie over is as its kind has it unless the maker says otherwise; until now nothing was said of any.
UPDATE materials SET body = json_remove(body, '$.lies_over')
    WHERE json_type(body, '$.lies_over') = 'array' AND json_array_length(body, '$.lies_over') = 0;
